import { useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh, type Words } from '../api/queries'
import { fromSI, readNumber, toSI, unitFor } from '../format'
import { Buttons, Pick, Text } from '../ui/Field'
import { shown } from '../ui/shown'

const textures = ['', 'sand', 'loamy-sand', 'sandy-loam', 'loam', 'silt-loam', 'clay-loam', 'clay'] as const

export function ZoneForm({
  zone,
  site,
  me,
  words,
  onDone,
}: {
  zone?: Schemas['Zone']
  site: string
  me: Schemas['Me']
  words: Words
  onDone: () => void
}) {
  const refresh = useRefresh()
  const [d, setD] = useState<Schemas['Zone']>(
    zone ?? {
      id: newId(),
      site_id: site,
      name: '',
      area_m2: 0,
      area_error: 0.1,
      species: ['unknown'],
      texture: '',
      target_cover: 0.9,
      policy: {},
      version: 0,
    },
  )
  const [area, setArea] = useState(zone ? String(Math.round(fromSI(zone.area_m2, 'm2', me.unit_system))) : '')
  const [year, setYear] = useState(d.sown_year === undefined ? '' : String(d.sown_year))
  const [error, setError] = useState(String(Math.round(d.area_error * 100)))
  const save = useMutation({
    mutationFn: () => {
      const sown_year = year.trim() === '' ? undefined : (readNumber(year) ?? -1)
      const body = {
        ...d,
        sown_year,
        area_m2: toSI(readNumber(area) ?? -1, 'm2', me.unit_system),
        area_error: (readNumber(error) ?? -100) / 100,
      }
      return got(zone ? api.PUT('/zones/{id}', { params: { path: { id: d.id } }, body }) : api.POST('/zones', { body }))
    },
    onSuccess: async () => {
      await refresh()
      onDone()
    },
  })
  const forms = words.species.get(d.species[0] ?? '')?.forms ?? []
  const grasses = words.raw.species.map((s) => [s.id, s.label] as const)
  return (
    <form
      ref={shown}
      tabIndex={-1}
      className="form side"
      aria-label="Zone"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>{zone ? 'Change the zone' : 'New zone'}</h2>
      <Text label="Zone name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
      <div className="fields">
        <Text label={`Area, ${unitFor('m2', me.unit_system)?.label ?? 'm²'}`} required value={area} onChange={setArea} />
        <Text label="Area accuracy, ± %" value={error} onChange={setError} />
        <Pick
          label="Soil"
          value={d.texture}
          onChange={(t) => setD({ ...d, texture: t })}
          options={textures.map((t) => [t, t ? t.replaceAll('-', ' ') : 'not known'] as const)}
        />
      </div>
      <Pick
        label="Main grass"
        value={d.species[0] ?? 'unknown'}
        onChange={(s) => setD({ ...d, form: undefined, species: [s, ...d.species.slice(1).filter((x) => x !== s)] })}
        options={grasses}
      />
      {forms.length > 0 && (
        <Pick
          label="Which kind of it"
          hint="it sets the mowing height and the sun it needs"
          value={d.form ?? ''}
          onChange={(form) => setD({ ...d, form: form || undefined })}
          options={[['', 'not known'], ...forms.map((f) => [f.id, f.label] as const)]}
        />
      )}
      <Pick
        label="Second grass"
        value={d.species[1] ?? ''}
        onChange={(s) => setD({ ...d, species: s && s !== d.species[0] ? [d.species[0] ?? 'unknown', s] : [d.species[0] ?? 'unknown'] })}
        options={[['', 'no other'], ...grasses]}
      />
      <div className="fields">
        <Text
          label="Cultivar or mixture"
          hint="the name on the bag"
          value={d.cultivar ?? ''}
          onChange={(cultivar) => setD({ ...d, cultivar: cultivar || undefined })}
        />
        <Text label="Sown or laid in" hint="year" value={year} onChange={setYear} />
      </div>
      <Pick
        label="Service they buy"
        value={d.policy.service ?? ''}
        onChange={(v) => setD({ ...d, policy: { ...d.policy, service: v || undefined } })}
        options={[
          ['', 'not said'],
          ['weeds', 'weeds only'],
          ['feeding', 'weeds and feeding'],
          ['full', 'full care'],
        ]}
      />
      <Pick
        label="Watered"
        value={d.irrigated === undefined || d.irrigated === null ? '' : d.irrigated ? 'yes' : 'no'}
        onChange={(v) => setD({ ...d, irrigated: v === '' ? undefined : v === 'yes' })}
        options={[
          ['', 'not known'],
          ['yes', 'has irrigation'],
          ['no', 'is not irrigated'],
        ]}
      />
      <div className="fields">
        <Pick
          label="In summer"
          value={d.policy['summer-water'] ?? ''}
          onChange={(v) => setD({ ...d, policy: { ...d.policy, 'summer-water': v || undefined } })}
          options={[
            ['', 'not said'],
            ['keep-green', 'keep green'],
            ['let-rest', 'let rest'],
            ['one-area', 'one area green'],
          ]}
        />
        <Pick
          label="Summer feeding"
          value={d.policy['summer-feeding'] ?? ''}
          onChange={(v) => setD({ ...d, policy: { ...d.policy, 'summer-feeding': v || undefined } })}
          options={[
            ['', 'not said'],
            ['none', 'none'],
            ['spoon-feed', 'little and often'],
          ]}
        />
        <Pick
          label="Pests"
          value={d.policy.pests ?? ''}
          onChange={(v) => setD({ ...d, policy: { ...d.policy, pests: v || undefined } })}
          options={[
            ['', 'not said'],
            ['threshold', 'at the threshold'],
            ['preventive', 'preventive'],
          ]}
        />
        <Pick
          label="Blemishes"
          value={d.policy.blemishes ?? ''}
          onChange={(v) => setD({ ...d, policy: { ...d.policy, blemishes: v || undefined } })}
          options={[
            ['', 'not said'],
            ['tolerate', 'tolerate'],
            ['treat', 'treat'],
          ]}
        />
      </div>
      <Buttons pending={save.isPending} error={save.error} onClose={onDone} />
    </form>
  )
}
