import { scalesDoor } from '../scales/door'
import { weighedAnew } from '../scales/useScales'
import { Outbox } from './outbox'

/** The device's one outbox. What an earlier run of the page left in it goes out first. */
export const outbox = new Outbox(scalesDoor, localStorage, weighedAnew)
addEventListener('online', () => void outbox.flush())
