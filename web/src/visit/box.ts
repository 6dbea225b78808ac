import { tokenOwner } from '../api/client'
import { queryClient, renewMe } from '../api/queries'
import { weighWaiting } from '../offline/cases'
import { scalesDoor } from '../scales/door'
import { weighedAnew } from '../scales/useScales'
import { DeviceKeeper } from './kept'
import { moments } from './moments'
import { Outbox } from './outbox'

const tabs = new BroadcastChannel('hodos-outbox')

/** The device's one outbox. The shell opens it for whoever signs in. */
export const outbox: Outbox = new Outbox({
  door: scalesDoor,
  keeper: new DeviceKeeper(),
  session: tokenOwner,
  renew: renewMe,
  onScales: weighedAnew,
  // a page that is not served safely has no locks: then the tabs send as they come, and keys keep that harmless
  alone: (f) => ('locks' in navigator ? (navigator.locks.request('hodos-outbox', f) as ReturnType<typeof f>) : f()),
  tell: () => tabs.postMessage('changed'),
  later: (f, ms) => void setTimeout(f, ms),
  now: () => Date.now(),
})

// arrivals and leavings that were kept go out with the answers
const tellMoments = async () => {
  const { waiting, trouble } = outbox.read()
  if (trouble === '' && (await moments.send(tokenOwner(), waiting.length > 0)))
    await queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'visit' || q.queryKey[0] === 'day' })
}
outbox.subscribe(() => void tellMoments())
addEventListener('online', () => void tellMoments())
setInterval(() => {
  if (moments.read().length > 0) void renewMe().then(tellMoments, () => undefined)
}, 15_000)

// while answers wait the scales are weighed on the device
outbox.subscribe(() => {
  const { waiting, trouble } = outbox.read()
  if (trouble !== '' || waiting.length === 0) void weighWaiting(queryClient, trouble === '' ? [] : waiting)
})

tabs.onmessage = () => void outbox.reread()
addEventListener('online', () => void outbox.flush())
document.addEventListener('visibilitychange', () => {
  if (!document.hidden) void outbox.flush()
})
