import { cellAt, type Frame } from './grid'

/** The square under a finger or a mouse. */
export function under(frame: Frame, e: React.PointerEvent<SVGSVGElement>): number | undefined {
  const toMetres = e.currentTarget.getScreenCTM()?.inverse()
  const p = toMetres && new DOMPoint(e.clientX, e.clientY).matrixTransform(toMetres)
  return p && cellAt(frame, [p.x, p.y])
}

/** Where an arrow key leads; undefined for any other. */
export function stepped(frame: Frame, at: number, key: string): number | undefined {
  const x = at % frame.columns
  const y = Math.floor(at / frame.columns)
  switch (key) {
    case 'ArrowLeft':
      return x > 0 ? at - 1 : at
    case 'ArrowRight':
      return x < frame.columns - 1 ? at + 1 : at
    case 'ArrowUp':
      return y > 0 ? at - frame.columns : at
    case 'ArrowDown':
      return y < frame.rows - 1 ? at + frame.columns : at
    default:
      return undefined
  }
}
