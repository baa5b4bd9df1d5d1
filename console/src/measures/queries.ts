import { useMutation, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'
import { zone } from '../kernel/wall'

export type MeasureSheet = Schemas['MeasureSheet']

/** What figures are narrowed to. Empty for what the service takes without. */
export interface Narrowed {
  by: string
  from: string
  until: string
  team: string
  owner: string
  account: string
  channel: string
}

/** As the service is asked for them. */
export function asked(narrowed: Narrowed): Record<string, string> {
  const given = Object.entries(narrowed).filter(([, value]) => value !== '')
  return { ...Object.fromEntries(given), zone: zone() }
}

export function useMeasures() {
  return useQuery({
    key: ['measures', 'all'],
    query: ({ signal }) => answered(api.GET('/api/measures', { signal })),
  })
}

export function useFigures(name: MaybeRefOrGetter<string>, narrowed: MaybeRefOrGetter<Narrowed>) {
  return useQuery({
    key: () => ['measures', toValue(name), { ...asked(toValue(narrowed)) }],
    query: ({ signal }) =>
      answered(
        api.GET('/api/measures/{name}', {
          params: { path: { name: toValue(name) }, query: asked(toValue(narrowed)) },
          signal,
        }),
      ),
    placeholderData: (before) => before,
  })
}

/** What stands behind a figure; of all lines together where there is none. */
export interface Figure {
  column: string
  line?: string
}

export function useBehind(
  name: MaybeRefOrGetter<string>,
  narrowed: MaybeRefOrGetter<Narrowed>,
  figure: MaybeRefOrGetter<Figure>,
) {
  return useQuery({
    key: () => ['measures', toValue(name), { ...asked(toValue(narrowed)) }, { ...toValue(figure) }],
    query: ({ signal }) =>
      answered(
        api.GET('/api/measures/{name}/rows', {
          params: {
            path: { name: toValue(name) },
            query: { ...asked(toValue(narrowed)), ...toValue(figure) },
          },
          signal,
        }),
      ),
  })
}

export function useChangeStages() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['StageLists']) => answered(api.PUT('/api/stages', { body })),
    onSuccess: () => askAgain('stages', 'measures'),
  })
}

export function useChangeResults() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['ResultList']) => answered(api.PUT('/api/results', { body })),
    onSuccess: () => askAgain('results', 'measures'),
  })
}

export function useHours() {
  return useQuery({
    key: ['hours'],
    query: ({ signal }) => answered(api.GET('/api/working-hours', { signal })),
  })
}

export function useChangeHours() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['WorkingHoursInfo']) => answered(api.PUT('/api/working-hours', { body })),
    onSuccess: () => askAgain('hours', 'measures'),
  })
}

/** Selections that somebody kept by name. */
export function useKept() {
  return useQuery({
    key: ['kept'],
    query: ({ signal }) => answered(api.GET('/api/kept-figures', { signal })),
  })
}

export function useKeep() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['NewKeptSelection']) => answered(api.POST('/api/kept-figures', { body })),
    onSuccess: () => askAgain('kept'),
  })
}

export function useForget() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (id: string) => answered(api.DELETE('/api/kept-figures/{id}', { params: { path: { id } } })),
    onSuccess: () => askAgain('kept'),
  })
}
