import { useEffect, useRef, useState } from 'react'
import { Button } from 'antd'
import { tiltOf } from './words'

/** How far off straight down a picture still counts, degrees; core/photo has the same. */
const tiltTo = 15

interface Asking {
  requestPermission?: () => Promise<string>
}

/** How the device is held, where it can tell. */
function useTilt(): { tilt: number | undefined; at: { x: number; y: number } } {
  const [held, setHeld] = useState<{ tilt: number; x: number; y: number }>()
  useEffect(() => {
    const hear = (e: DeviceOrientationEvent) => {
      if (e.beta === null || e.gamma === null) return
      setHeld({ tilt: tiltOf(e.beta, e.gamma), x: e.gamma, y: e.beta })
    }
    addEventListener('deviceorientation', hear)
    return () => removeEventListener('deviceorientation', hear)
  }, [])
  return { tilt: held?.tilt, at: { x: held?.x ?? 0, y: held?.y ?? 0 } }
}

/** The camera, with a level that says when it looks straight down. */
export function Camera({
  onPicture,
  onClose,
}: {
  onPicture: (picture: ImageBitmap, tilt: number | undefined) => void
  onClose: () => void
}) {
  const video = useRef<HTMLVideoElement>(null)
  const [problem, setProblem] = useState('')
  const [running, setRunning] = useState(false)
  const { tilt, at } = useTilt()
  useEffect(() => {
    let stream: MediaStream | undefined
    let left = false
    const open = async () => {
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment', width: { ideal: 1920 } }, audio: false })
        const it = video.current
        if (left || !it) return stream.getTracks().forEach((t) => t.stop())
        it.srcObject = stream
        await it.play()
        setRunning(true)
      } catch {
        setProblem('No camera can be used here. Allow it in the browser’s settings, or choose a picture that was taken before.')
      }
    }
    void open()
    return () => {
      left = true
      stream?.getTracks().forEach((t) => t.stop())
    }
  }, [])
  const shoot = async () => {
    const it = video.current
    if (!it) return
    onPicture(await createImageBitmap(it), tilt)
  }
  const level = tilt === undefined ? undefined : tilt <= tiltTo
  const held = (x: number) => Math.max(-1, Math.min(1, x / 30)) * 40
  return (
    <div className="camera">
      {problem && <p className="problem">{problem}</p>}
      <div className="camera-view" data-running={running}>
        <video ref={video} playsInline muted />
        {tilt !== undefined && (
          <svg
            viewBox="-50 -50 100 100"
            className="level"
            data-level={level}
            role="img"
            aria-label={`${Math.round(tilt)}° off straight down`}
          >
            <circle r="22" />
            <circle className="bubble" r="9" cx={held(at.x)} cy={held(at.y)} />
          </svg>
        )}
      </div>
      <p className="faint" role="status">
        {tilt === undefined
          ? 'Hold the camera flat, looking straight down from hip height, out of your own shadow.'
          : level
            ? 'Straight down. Keep your shadow out of the picture.'
            : `Tilt it: ${Math.round(tilt)}° off straight down. Slanted pictures do not count.`}
      </p>
      <p className="buttons">
        {!problem && (
          <Button type="primary" disabled={!running} onClick={() => void shoot()} data-shoot>
            Take it
          </Button>
        )}
        <Button onClick={onClose}>Close</Button>
        {tilt === undefined && askable() && <Button onClick={() => void askable()?.()}>Use the level</Button>}
      </p>
    </div>
  )
}

/** Some devices tell how they are held only when asked from a press. */
function askable(): (() => Promise<string>) | undefined {
  if (typeof DeviceOrientationEvent === 'undefined') return undefined
  const asking = DeviceOrientationEvent as unknown as Asking
  return asking.requestPermission?.bind(asking)
}
