// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import { EraseClient, goes, stays } from './EraseClient'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const e: Schemas['Erasing'] = {
  client: 'Orla Brandt',
  sites: 1,
  zones: 2,
  photos: 0,
  notes: 0,
  calls: 0,
  open: 0,
  visits: 0,
  records: 0,
  named: 0,
  years: 3,
  erased: false,
}

describe('erasing a client', () => {
  it('says what goes and what stays, and nothing of what there is none of', () => {
    expect(goes(e)).toHaveLength(4)
    expect(goes({ ...e, photos: 3, notes: 1, calls: 2 })).toContain('3 pictures, 1 note and 2 calls from the client')
    expect(goes({ ...e, notes: 1, open: 1 })).toEqual(expect.arrayContaining(['1 note', '1 visit or job that is booked']))
    expect(goes({ ...e, sites: 2 })[1]).toContain('of 2 sites; their places')
    expect(stays(e, 'dmy')).toHaveLength(1)
    const kept = stays({ ...e, visits: 4, named: 2, keep_until: '2029-05-11' }, 'dmy')
    expect(kept[0]).toContain('on 4 visits, without a name')
    expect(kept[1]).toContain('2 treatment records with name and address, in the book of applications alone, until 11 May 2029')
  })
  it('goes on only under the name of the client', async () => {
    const asked = serves({ 'GET /clients/c/erasure': e, 'POST /clients/c/erasure': { ...e, client: '', erased: true } })
    const done = vi.fn()
    page(<EraseClient client="c" form="dmy" onDone={done} />)
    const button = await screen.findByRole<HTMLButtonElement>('button', { name: 'Erase for good' })
    expect(button.disabled).toBe(true)
    await userEvent.type(screen.getByLabelText('Type the client’s name to go on'), 'orla brandt ')
    expect(button.disabled).toBe(false)
    await userEvent.click(button)
    await vi.waitFor(() => expect(done).toHaveBeenCalled())
    expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({ name: 'orla brandt ' })
  })
})
