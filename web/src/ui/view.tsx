import { lazy, type ComponentType } from 'react'

/** A view with its code, which is fetched when it is first shown; preload fetches it before. */
export interface View {
  (): React.JSX.Element
  preload: () => void
}

/** Views whose code could not be fetched; each of them makes itself anew when renew is called. */
const spent = new Set<() => void>()

/** Lets what could not be fetched be asked for again the next time it is shown. */
export function renew(): void {
  spent.forEach((anew) => anew())
  spent.clear()
}

/** Makes a view. */
export function view(load: () => Promise<{ default: ComponentType }>): View {
  const make = () =>
    lazy(() =>
      load().catch((e: unknown) => {
        spent.add(() => (page = make()))
        throw new Unloaded(e)
      }),
    )
  let page = make()
  const shown = () => {
    const Page = page
    return <Page />
  }
  return Object.assign(shown, {
    preload: () => {
      load().catch(() => undefined) // whoever opens it hears of it
    },
  })
}

/** The code of a view could not be fetched: no connection, or a new version has taken its place. */
export class Unloaded extends Error {
  constructor(cause: unknown) {
    super('This page could not be loaded', { cause })
  }
}
