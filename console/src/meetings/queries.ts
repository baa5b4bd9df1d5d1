import { useMutation, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'
import { zone } from '../kernel/wall'

export interface Whose {
  people: string[]
  team: string
  record: string
  /** Only what is about a record that the asker follows. */
  followed?: boolean
}

/** The meetings of a span of days. */
export function useMeetings(
  from: MaybeRefOrGetter<Date>,
  until: MaybeRefOrGetter<Date>,
  whose: MaybeRefOrGetter<Whose>,
  perDay: MaybeRefOrGetter<number>,
) {
  return useQuery({
    key: () => [
      'calendar',
      toValue(perDay),
      zone(),
      toValue(from).toISOString(),
      toValue(until).toISOString(),
      JSON.stringify(toValue(whose)),
    ],
    query: ({ signal }) => {
      const w = toValue(whose)
      return answered(
        api.GET('/api/calendar', {
          params: {
            query: {
              from: toValue(from).toISOString(),
              until: toValue(until).toISOString(),
              people: w.people,
              team: w.team,
              perDay: toValue(perDay),
              zone: zone(),
              ...(w.record && { record: w.record }),
              ...(w.followed && { followed: true }),
            },
          },
          signal,
        }),
      )
    },
    placeholderData: (before) => before,
  })
}

export function useFree(
  from: MaybeRefOrGetter<Date>,
  until: MaybeRefOrGetter<Date>,
  whose: MaybeRefOrGetter<Whose>,
  minutes: MaybeRefOrGetter<number>,
) {
  return useQuery({
    key: () => ['free', toValue(from).toISOString(), JSON.stringify(toValue(whose)), toValue(minutes)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/calendar/free', {
          params: {
            query: {
              from: toValue(from).toISOString(),
              until: toValue(until).toISOString(),
              people: toValue(whose).people,
              team: toValue(whose).team,
              minutes: toValue(minutes),
              zone: zone(),
            },
          },
          signal,
        }),
      ),
    enabled: () => toValue(whose).people.length > 0 || toValue(whose).team !== '',
  })
}

export function useMeeting(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['meeting', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/meetings/{item}', { params: { path: { item: toValue(id) } }, signal })),
    enabled: () => toValue(id) !== '',
  })
}

/** A change here goes out to a calendar a moment later: how that went is asked for once more then. */
function useShown() {
  const askAgain = useAskAgain()
  const all = () => askAgain('calendar', 'free', 'meeting', 'timeline', 'activity', 'record', 'in-step')
  return async () => {
    await all()
    for (const millis of [1_500, 4_000]) setTimeout(() => void all(), millis)
  }
}

export function useMake() {
  const shown = useShown()
  return useMutation({
    mutation: (body: Schemas['NewMeeting']) => answered(api.POST('/api/meetings', { body })),
    onSuccess: shown,
  })
}

export function useChange() {
  const shown = useShown()
  return useMutation({
    mutation: (wanted: { item: string } & Schemas['MeetingChange']) => {
      const { item, ...body } = wanted
      return answered(api.PUT('/api/meetings/{item}', { params: { path: { item } }, body }))
    },
    onSettled: shown,
  })
}

export function useDelete() {
  const shown = useShown()
  return useMutation({
    mutation: (item: string) => answered(api.DELETE('/api/meetings/{item}', { params: { path: { item } } })),
    onSuccess: shown,
  })
}

export function useTell() {
  const shown = useShown()
  return useMutation({
    mutation: (outcome: { item: string; state: string }) =>
      answered(
        api.PUT('/api/meetings/{item}/outcome', {
          params: { path: { item: outcome.item } },
          body: { state: outcome.state },
        }),
      ),
    onSuccess: shown,
  })
}

export function useSayResult() {
  const shown = useShown()
  return useMutation({
    mutation: (said: { item: string; result: string }) =>
      answered(
        api.PUT('/api/meetings/{item}/result', {
          params: { path: { item: said.item } },
          body: { result: said.result },
        }),
      ),
    onSuccess: shown,
  })
}

export function useBringBack() {
  const shown = useShown()
  return useMutation({
    mutation: (id: string) =>
      answered(api.POST('/api/conflicts/{id}/bring-back', { params: { path: { id } } })),
    onSuccess: shown,
  })
}
