import { describe, expect, it } from 'vitest'
import { eye, inWords } from './eye'

describe('the eye that estimates shares', () => {
  it('is told its side and its spread', () => {
    expect(eye([])).toBeUndefined()
    expect(eye([{ said: 30, was: 20 }])).toEqual({ n: 1, bias: 10, off: 10 })
    expect(
      eye([
        { said: 30, was: 20 },
        { said: 10, was: 20 },
      ]),
    ).toEqual({ n: 2, bias: 0, off: 10 })
  })
  it('in words', () => {
    expect(inWords([])).toBe('')
    expect(inWords([{ said: 30, was: 22.5 }])).toBe('Over 1 plot you are 7.5 points off as a rule, on average 7.5 points too much.')
    expect(
      inWords([
        { said: 10, was: 20 },
        { said: 30, was: 40 },
      ]),
    ).toBe('Over 2 plots you are 10 points off as a rule, on average 10 points too little.')
    expect(
      inWords([
        { said: 21, was: 20 },
        { said: 19, was: 20 },
      ]),
    ).toContain('to neither side')
  })
})
