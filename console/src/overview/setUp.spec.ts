import { describe, expect, it } from 'vitest'
import { isSetUp, setUpSteps, type SetUp } from './setUp'

const NOTHING: SetUp = {
  domains: 0,
  people: 0,
  servers: 0,
  policies: [],
  connections: 0,
  signIns: 1,
  captured: false,
}

describe('setting up', () => {
  it('begins with nothing done, and says what comes first', () => {
    const steps = setUpSteps(NOTHING)
    expect(steps.filter((s) => s.done)).toEqual([])
    expect(steps.find((s) => !s.done)?.key).toBe('domains')
    expect(isSetUp(steps)).toBe(false)
  })

  it('is over once something was captured, invited or not', () => {
    const all = { domains: 1, people: 9, servers: 1, policies: ['Everyone'], connections: 1, captured: true }
    expect(isSetUp(setUpSteps({ ...all, signIns: 1 }))).toBe(true)
    expect(isSetUp(setUpSteps({ ...all, signIns: 1, policies: [] }))).toBe(false)
    expect(isSetUp(setUpSteps({ ...all, signIns: 9, captured: false }))).toBe(false)
  })
})
