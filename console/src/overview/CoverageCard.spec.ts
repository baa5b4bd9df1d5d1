import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Schemas } from '../api/client'
import CoverageCard from './CoverageCard.vue'

const person = (state: string, silentDays: number | null = 0) =>
  ({ id: `${state}${Math.random()}`, state, silentDays }) as Schemas['CoverageInfo']
const calendar = (pendingSync: number, held = false) => ({ pendingSync, held }) as Schemas['CalendarStand']

async function shown(props: InstanceType<typeof CoverageCard>['$props']) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:all(.*)', component: { template: '<i />' } }],
  })
  await router.push('/')
  return mount(CoverageCard, { props, global: { plugins: [router] } })
}

describe('coverage at a glance', () => {
  it('counts each state and leads to its people', async () => {
    const card = await shown({
      people: [person('capturing'), person('capturing', 9), person('needs-sign-in', null)],
      calendars: [calendar(0), calendar(2), calendar(0, true)],
      conflicts: 3,
      left: 0,
    })
    const states = card.findAll('a.state').map((a) => [a.attributes('href'), a.text()])
    expect(states).toEqual([
      ['/coverage?state=capturing', 'capturing2'],
      ['/coverage?state=needs-sign-in', 'needs sign in1'],
      ['/in-step', 'calendars in sync1 of 3'],
      ['/in-step?view=conflicts', 'conflicts3'],
      // nobody has heard of the third: as silent as can be
      ['/coverage?silent=yes', 'silent for 7 days2'],
    ])
    expect(card.text()).not.toContain('re-evaluated')
  })
  it('says what is being re-evaluated while something is', async () => {
    const card = await shown({ people: [], calendars: [], conflicts: 0, left: 1200 })
    expect(card.text()).toContain('being re-evaluated1,200')
  })
})
