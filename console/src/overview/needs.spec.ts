import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { needsOf } from './needs'

const connection = (state: string) =>
  ({ id: state, state, personName: 'Vera', account: 'vera@x', detail: 'why' }) as Schemas['ConnectionInfo']
const calendar = (held: boolean, stuck: number) =>
  ({ source: 7, held, stuck, personName: 'Vera', label: 'Work' }) as Schemas['CalendarStand']
const person = (state: string) =>
  ({ id: state, state, name: 'Noor', policyName: 'Everyone', why: '' }) as Schemas['CoverageInfo']

describe('what needs somebody', () => {
  it('is the worst first', () => {
    const all = needsOf([connection('overdue'), connection('needs-sign-in')], [], [person('not-connected')])
    expect(all.map((n) => n.what)).toEqual(['Sign-in refused', 'Behind', 'Not connected'])
    expect(all[0]?.to.query).toEqual({ find: 'vera@x' })
  })
  it('is not what is well, paused or ended', () => {
    const fine = ['capturing', 'paused', 'disconnected', 'connecting'].map(connection)
    expect(needsOf(fine, [calendar(false, 0)], [person('capturing'), person('not-covered')])).toEqual([])
  })
  it('is a calendar once, the reason that holds it first', () => {
    expect(needsOf([], [calendar(true, 3)], []).map((n) => n.what)).toEqual(['Calendar held back'])
    expect(needsOf([], [calendar(false, 3)], [])[0]?.about).toContain('3 not written')
  })
})
