import { useMutation, useQuery, useQueryCache } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useRulesChanged } from '../policy/exclusionQueries'
import { useDirectoryChanged, type Kind } from './queries'

export type Import = Schemas['ImportInfo']
export type Preview = Schemas['ImportPreview']
export type TakenImport = Schemas['TakenImport']
export type UndoneImport = Schemas['ImportUndone']

export function useLook() {
  return useMutation({
    mutation: ({ kind, file }: { kind: Kind; file: File }) =>
      answered(
        api.POST('/api/imports/{kind}', {
          params: { path: { kind }, query: { name: file.name } },
          headers: { 'Content-Type': 'application/octet-stream' },
          body: file as never,
          bodySerializer: (bytes: unknown) => bytes as Blob,
        }),
      ),
  })
}

/** What there is of it, asked again while it is being taken. */
export function useImport(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['imports', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/imports/{id}', { params: { path: { id: toValue(id) } }, signal })),
    enabled: () => toValue(id) !== '',
  })
}

export function usePreview() {
  return useMutation({
    mutation: ({ id, ours }: { id: string; ours: string[] }) =>
      answered(api.PUT('/api/imports/{id}/mapping', { params: { path: { id } }, body: { ours } })),
  })
}

export function useTake() {
  return useMutation({
    mutation: (id: string) => answered(api.POST('/api/imports/{id}/take', { params: { path: { id } } })),
  })
}

/** Everything that a file may move. */
export function useTaken() {
  const directory = useDirectoryChanged()
  const rules = useRulesChanged()
  const cache = useQueryCache()
  return () => {
    directory()
    void rules()
    void cache.invalidateQueries({ key: TAKEN })
  }
}

const TAKEN = ['imports', 'taken']

/** Those that can be undone, and those that were. */
export function useTakenImports() {
  return useQuery({ key: TAKEN, query: ({ signal }) => answered(api.GET('/api/imports', { signal })) })
}

export function useUndoImport() {
  const taken = useTaken()
  return useMutation({
    mutation: (id: string) => answered(api.POST('/api/imports/{id}/undo', { params: { path: { id } } })),
    onSettled: taken,
  })
}
