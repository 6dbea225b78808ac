import { lazy, type ComponentType } from 'react'

/** A view with its code, which is fetched when it is first shown; preload fetches it before. */
export interface View {
  (): React.JSX.Element
  preload: () => void
}

/** Makes a view. What could not be fetched is asked for again the next time it is shown. */
export function view(load: () => Promise<{ default: ComponentType }>): View {
  const make = () =>
    lazy(() =>
      load().catch((e: unknown) => {
        page = make()
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
