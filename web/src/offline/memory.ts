import { queryClient } from '../api/queries'
import { Memory } from './remember'

/** The device's one memory of what the server has said. */
export const memory = new Memory(queryClient)
