import { useCallback, useEffect, useState } from 'react'
import { takePicture } from '../core/core'
import { Busy } from '../Shell'
import { Camera } from './Camera'
import { useMe } from '../api/queries'
import { factsOf, unfit, unreadable, workNow } from './facts'
import { Measure, type InHand } from './Measure'

/** From a camera or a file to a photograph that is measured and kept. */
export default function TakePhoto({
  visit,
  zone,
  from,
  onDone,
  onWidth,
}: {
  visit: string
  zone: string
  from: 'camera' | File
  onDone: () => void
  onWidth?: (cm: number) => void
}) {
  const today = useMe().data?.today ?? ''
  const [picture, setPicture] = useState<InHand>()
  const [problem, setProblem] = useState(() => (from === 'camera' ? '' : unfit(from)))
  const [busy, setBusy] = useState(from !== 'camera')
  const take = useCallback(async (source: Blob | ImageBitmap, takenAt: Promise<Date>, tilt: number | undefined) => {
    setBusy(true)
    try {
      const at = await takenAt // the tags are read before the pixels
      const { width, height, jpeg } = await takePicture(source)
      setPicture({ width, height, jpeg, takenAt: at, tilt })
    } catch (e) {
      setProblem(unreadable(e))
    }
    setBusy(false)
  }, [])
  useEffect(() => {
    if (from !== 'camera' && unfit(from) === '')
      // eslint-disable-next-line react-hooks/set-state-in-effect -- the picture comes from outside of the page
      void take(
        from,
        factsOf(from, workNow(today)).then((f) => f.takenAt),
        undefined,
      )
  }, [from, take, today])
  if (problem)
    return (
      <section className="photos" aria-label="Pictures">
        <p className="problem" role="alert">
          {problem}
        </p>
        <button type="button" className="answer" onClick={onDone}>
          Back
        </button>
      </section>
    )
  if (picture) return <Measure visit={visit} zone={zone} picture={picture} onDone={onDone} onWidth={onWidth} />
  if (from === 'camera' && !busy)
    return <Camera onPicture={(p, tilt) => void take(p, Promise.resolve(workNow(today)), tilt)} onClose={onDone} />
  return <Busy what="the picture" />
}
