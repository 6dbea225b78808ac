import { describe, expect, it } from 'vitest'
import { takenBy, unfit, unreadable, workNow } from './facts'

describe('a file', () => {
  const file = (type: string, size = 10, name = 'x') => ({ type, size, name })
  it('is taken as JPEG or PNG', () => {
    expect(unfit(file('image/jpeg'))).toBe('')
    expect(unfit(file('image/png'))).toBe('')
  })
  it('is refused in plain words', () => {
    expect(unfit(file('image/heic'))).toContain('JPEG')
    expect(unfit(file('', 10, 'IMG_1.HEIC'))).toContain('HEIC')
    expect(unfit(file('image/gif'))).toContain('Only JPEG and PNG')
    expect(unfit(file('image/jpeg', 0))).toContain('empty')
    expect(unfit(file('image/jpeg', 50 * 1024 * 1024))).toContain('40 MB')
  })
  it('that cannot be decoded is said to be broken', () => {
    expect(unreadable(new Error('The source image could not be decoded.'))).toContain('is damaged')
    expect(unreadable(new Error('The picture is larger than 100 million pixels.'))).toContain('100 million')
    expect(unreadable('x')).toContain('is damaged')
  })
})

describe('when a picture was taken', () => {
  const fallback = new Date('2026-08-24T09:00:00Z')
  it('is told by its tags, with their offset', () => {
    const f = takenBy({ DateTimeOriginal: '2026:08:20 14:05:06', OffsetTimeOriginal: '-04:00' }, fallback)
    expect(f).toEqual({ takenAt: new Date('2026-08-20T18:05:06Z'), dated: true })
    expect(takenBy({ DateTimeOriginal: new Date('2026-08-20T18:05:06Z') }, fallback).dated).toBe(true)
  })
  it('is the date of the file where tags say nothing of use', () => {
    for (const tags of [
      undefined,
      {},
      { DateTimeOriginal: 'yesterday' },
      { DateTimeOriginal: '2026:13:45 99:99:99' },
      { DateTimeOriginal: 7 },
    ])
      expect(takenBy(tags, fallback)).toEqual({ takenAt: fallback, dated: false })
  })
  it('goes by the clock of the device where the offset is not told', () => {
    expect(takenBy({ DateTimeOriginal: '2026:08:20 14:05:06', OffsetTimeOriginal: 'home' }, fallback).takenAt).toEqual(
      new Date('2026-08-20T14:05:06'),
    )
  })
})

it('takes a picture on the day that the work is at', () => {
  const at = workNow('2026-08-24', new Date(2027, 0, 31, 14, 5))
  expect([at.getFullYear(), at.getMonth(), at.getDate(), at.getHours(), at.getMinutes()]).toEqual([2026, 7, 24, 14, 5])
  const now = new Date()
  expect(workNow('', now)).toBeInstanceOf(Date)
})
