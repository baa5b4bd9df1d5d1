import { computed } from 'vue'
import { isTroubled, useConnections } from '../connections/queries'
import { useInStep } from '../meetings/instep'
import { useStrangerCount } from '../triage/queries'

/** How much waits for somebody on a page, by its path; 0 where nothing does. */
export function useNeeds() {
  const { data: strangers } = useStrangerCount()
  const { data: inStep } = useInStep()
  const { data: connections } = useConnections()
  return computed<Record<string, number>>(() => ({
    '/triage': strangers.value ?? 0,
    '/in-step': inStep.value?.calendars.filter((c) => c.held || c.stuck > 0).length ?? 0,
    '/connections': connections.value?.filter(isTroubled).length ?? 0,
  }))
}
