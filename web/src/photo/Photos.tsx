import { lazy, Suspense, useEffect, useState } from 'react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { Busy, Problem } from '../Shell'
import { photosQuery } from './queries'
import { photos, usePhotos, type WaitingPhoto } from './box'
import { faultsSaid, shareSaid, sumSaid } from './words'
import './photo.css'

const TakePhoto = lazy(() => import('./TakePhoto'))

interface Props {
  visit: string
  zone: string
  may: boolean
  /** what a sum can be taken over as; left out where nothing is asked for it */
  onTake?: (check: 'green-up-percent' | 'moss-cover-percent' | 'patch-diameter-cm', value: number) => void
}

/** The photographs of a zone on a visit: taken, measured, waiting and kept. */
export function Photos({ visit, zone, may, onTake }: Props) {
  const [taking, setTaking] = useState<'camera' | File>()
  const kept = useQuery({ ...photosQuery(visit, zone), enabled: zone !== '' })
  const queue = usePhotos()
  useEffect(() => {
    void photos.flush()
  }, [])
  const waiting = queue.waiting.filter((p) => p.visit === visit && p.zone === zone)
  const list = kept.data?.photos ?? []
  if (taking)
    return (
      <Suspense fallback={<Busy what="the camera" />}>
        <TakePhoto
          visit={visit}
          zone={zone}
          from={taking}
          onDone={() => setTaking(undefined)}
          onWidth={onTake && ((cm) => onTake('patch-diameter-cm', cm))}
        />
      </Suspense>
    )
  return (
    <section className="photos" aria-label="Pictures">
      <div className="photo-strip">
        {may && (
          <>
            <button type="button" className="photo-add" onClick={() => setTaking('camera')} data-camera>
              Take a picture
            </button>
            <label className="photo-add">
              Choose a picture
              <input
                type="file"
                className="unseen"
                accept="image/jpeg,image/png,image/heic"
                data-choose
                onChange={(e) => {
                  const file = e.target.files?.[0]
                  e.target.value = ''
                  if (file) setTaking(file)
                }}
              />
            </label>
          </>
        )}
        {waiting.map((p) => (
          <Waiting key={p.id} photo={p} offline={queue.offline} unsafe={queue.unsafe} />
        ))}
        {list.map((p) => (
          <Kept key={p.id} photo={p} may={may} />
        ))}
      </div>
      {kept.data?.sums.map((s) => (
        <p key={s.about + s.spot} className="photo-sum" data-sum={`${s.about}/${s.spot}`}>
          <b className="num">{sumSaid(s)}</b>
          {s.of === 1 && <span className="faint"> Take three or more for the whole area.</span>}
          {onTake && s.spot !== 'healthy' && (
            <button
              type="button"
              className="offer"
              disabled={!may}
              data-take-sum={s.about}
              onClick={() => onTake(s.about === 'moss' ? 'moss-cover-percent' : 'green-up-percent', Math.round(s.cover * 100))}
            >
              Take as {s.about === 'moss' ? 'moss' : 'spring green-up'}
            </button>
          )}
        </p>
      ))}
    </section>
  )
}

/** A photograph that is not with the server yet. */
function Waiting({ photo: p, offline, unsafe }: { photo: WaitingPhoto; offline: boolean; unsafe: boolean }) {
  const [url] = useState(() => URL.createObjectURL(p.jpeg))
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  return (
    <figure data-photo-state={p.refused === undefined ? 'here' : 'refused'}>
      <img src={url} alt="Picture, not sent yet" />
      <figcaption>
        {p.refused !== undefined ? (
          <>
            <span className="problem">Not taken: {p.refused}</span>
            <button type="button" className="quiet" onClick={() => void photos.dismiss(p.id)}>
              Put away
            </button>
          </>
        ) : (
          <span className="faint">
            {unsafe
              ? 'Storage is full: keep this page open until it is sent'
              : offline
                ? 'On this device, sent when you are back online'
                : 'Sending'}
          </span>
        )}
      </figcaption>
    </figure>
  )
}

function Kept({ photo: p, may }: { photo: Schemas['Photo']; may: boolean }) {
  const client = useQueryClient()
  const drop = useMutation({
    mutationFn: () => got(api.DELETE('/photos/{id}', { params: { path: { id: p.id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['photos'] }),
  })
  const [open, setOpen] = useState(false)
  const said = p.cover === undefined ? 'for show' : `${p.about === 'moss' ? 'moss ' : ''}${shareSaid(p.cover, p.error ?? 0)}`
  return (
    <figure data-photo-state="saved" data-open={open}>
      <button type="button" className="photo-open" aria-expanded={open} onClick={() => setOpen(!open)}>
        <img src={`/api/v1/photos/${p.id}/${open ? 'picture' : 'thumbnail'}`} alt={`Picture by ${p.by}, ${said}`} loading="lazy" />
      </button>
      <figcaption>
        <span className="num">{said}</span>
        {p.faults.length > 0 && <small>{faultsSaid(p.faults)}</small>}
        {open && p.note && <span>{p.note}</span>}
        {open && may && (
          <button type="button" className="quiet" disabled={drop.isPending} onClick={() => drop.mutate()}>
            Delete
          </button>
        )}
        {drop.isError && <Problem error={drop.error} />}
      </figcaption>
    </figure>
  )
}
