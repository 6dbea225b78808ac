import { useDevice } from './device'

/** What the device itself runs short of, before it costs anything. */
export function DeviceBar() {
  const { charge, full } = useDevice()
  return (
    <>
      {charge !== undefined && (
        <p className="saved" data-state="battery" role="status">
          Battery at {Math.round(charge * 100)} %. Every answer is saved as you tap it.
        </p>
      )}
      {full && (
        <p className="saved" data-state="room" role="status">
          This device is nearly full. Make room before you take more pictures.
        </p>
      )}
    </>
  )
}
