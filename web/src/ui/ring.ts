/**
 * A bell that is set beforehand: it is handed to the sound of the device while somebody presses a button, so that it rings with the screen
 * locked as far as the browser lets sound go on.
 */
export function setBell(seconds: number): () => void {
  const Context = window.AudioContext as typeof AudioContext | undefined
  if (!Context) return () => undefined
  const sound = new Context()
  for (const [at, pitch] of [
    [0, 880],
    [0.35, 660],
    [0.7, 880],
    [1.4, 880],
    [1.75, 660],
    [2.1, 880],
  ] as const) {
    const tone = sound.createOscillator()
    const loud = sound.createGain()
    const from = sound.currentTime + seconds + at
    tone.frequency.value = pitch
    loud.gain.setValueAtTime(0, sound.currentTime)
    loud.gain.setValueAtTime(0.4, from)
    loud.gain.exponentialRampToValueAtTime(0.001, from + 0.3)
    tone.connect(loud).connect(sound.destination)
    tone.start(from)
    tone.stop(from + 0.35)
  }
  return () => void sound.close()
}

/** Keeps the screen lit while it is asked for; what the browser or the battery refuses is let be. */
export async function keepLit(): Promise<() => void> {
  try {
    const lock = await navigator.wakeLock.request('screen')
    return () => void lock.release()
  } catch {
    return () => undefined
  }
}
