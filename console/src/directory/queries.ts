import { useMutation, useQuery } from '@pinia/colada'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'
import { many } from '../kernel/times'

export type Kind = 'accounts' | 'contacts' | 'leads' | 'opportunities' | 'people'
export type Row = Schemas['TableRow']
/** Of what two can be made one. */
export type Mergeable = 'contact' | 'account' | 'lead'
export type Column = Schemas['TableColumn']
export type Edit = Schemas['RowEdit']

/** Which rows of a table, and in which order. */
export interface TableWanted {
  find: string
  /** A column; the last first with a minus before it. */
  sort: string
  /** Columns and what is in them, as the address has it: `owner:maren;stage:=new`. */
  where: string
  archived: string
  page: number
}
export const PER_PAGE = 50

/** Filters as the address has them. A semicolon in what somebody types ends the filter, as nothing in a table's cells needs one. */
export function filtersOf(where: string): Record<string, string> {
  return Object.fromEntries(
    where
      .split(';')
      .map((one) => [one.slice(0, one.indexOf(':')), one.slice(one.indexOf(':') + 1)] as const)
      .filter(([name, value]) => name && value),
  )
}
export function whereOf(filters: Record<string, string>): string {
  return Object.entries(filters)
    .filter(([, value]) => value.trim())
    .map(([name, value]) => `${name}:${value.replaceAll(';', ' ')}`)
    .join(';')
}

/** As the service takes them. */
export function queryOf(wanted: Omit<TableWanted, 'page'>) {
  const filters = Object.entries(filtersOf(wanted.where)).map(([name, value]) => [`where.${name}`, value])
  return {
    find: wanted.find,
    sort: wanted.sort,
    archived: wanted.archived === 'yes',
    ...(Object.fromEntries(filters) as Record<string, string>),
  }
}

export function useTable(kind: MaybeRefOrGetter<Kind>, wanted: MaybeRefOrGetter<TableWanted>) {
  return useQuery({
    key: () => ['directory', toValue(kind), { ...toValue(wanted) }],
    query: ({ signal }) =>
      answered(
        api.GET('/api/directory/{kind}', {
          params: {
            path: { kind: toValue(kind) },
            query: {
              ...queryOf(toValue(wanted)),
              offset: (toValue(wanted).page - 1) * PER_PAGE,
              limit: PER_PAGE,
            } as never,
          },
          signal,
        }),
      ),
    // a list must not flicker under who clicks
    placeholderData: (before) => before,
  })
}

/** Those of a table that belong to another record. */
export function usePartOf(
  kind: Kind,
  column: string,
  key: MaybeRefOrGetter<string>,
  enabled: MaybeRefOrGetter<boolean>,
) {
  return useQuery({
    key: () => ['directory', kind, 'of', column, toValue(key)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/directory/{kind}', {
          params: {
            path: { kind },
            query: { [`where.${column}`]: `=${toValue(key)}`, sort: 'name', limit: 100 } as never,
          },
          signal,
        }),
      ),
    enabled: () => toValue(enabled) && toValue(key) !== '',
  })
}

export function useRow(kind: MaybeRefOrGetter<Kind | undefined>, id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['directory', toValue(kind) ?? '', 'row', toValue(id)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/directory/{kind}/{id}', {
          params: { path: { kind: toValue(kind)!, id: toValue(id) } },
          signal,
        }),
      ),
    enabled: () => toValue(kind) !== undefined,
  })
}

/** What there is, in the order in which files refer to each other. */
export function useKinds() {
  return useQuery({
    key: ['directory-kinds'],
    query: ({ signal }) => answered(api.GET('/api/directory', { signal })),
  })
}

/** The columns of a kind, as its files have them. */
export function useColumns(kind: MaybeRefOrGetter<Kind | undefined>) {
  const { data } = useKinds()
  return computed(() => data.value?.find((k) => k.kind === toValue(kind))?.columns)
}

/** Says how many decisions a change moved, after what was done. */
export function withDecisions(says: string, reconsidering: number): string {
  return reconsidering ? `${says}; ${many(reconsidering, 'decision')} being made again` : says
}

/** Says what a change of rows came to: in how many address books stands what was archived, and what is decided again. */
export function withEffects(says: string, done: Schemas['RowsChanged']): string {
  const books = many(done.books, 'address book')
  return withDecisions(
    done.books ? `${says}: in ${books}, where the policy says what follows` : says,
    done.reconsidering,
  )
}

/** What shows records, and what was decided by them. */
export function useDirectoryChanged() {
  const askAgain = useAskAgain()
  // nobody who clicked waits for all of it
  return () =>
    void askAgain(
      'directory',
      'address-books',
      'records',
      'record',
      'people',
      'decisions',
      'summary',
      'triage',
      'timeline',
      'coverage',
    )
}

/** A record made by hand; mail and meetings that fit it are decided again. */
export function useMakeRecord() {
  const changed = useDirectoryChanged()
  return useMutation({
    mutation: (body: Schemas['NewRecord']) => answered(api.POST('/api/records', { body })),
    onSuccess: changed,
  })
}

export function useEditRows() {
  const changed = useDirectoryChanged()
  return useMutation({
    mutation: ({ kind, rows }: { kind: Kind; rows: Edit[] }) =>
      answered(api.PUT('/api/directory/{kind}', { params: { path: { kind } }, body: { rows } })),
    onSettled: changed,
  })
}

/** How an opportunity was, the newest first. */
export function useHistory(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['record', toValue(id), 'history'],
    query: ({ signal }) =>
      answered(api.GET('/api/records/{id}/history', { params: { path: { id: toValue(id) } }, signal })),
  })
}

/** Meetings that opened an opportunity, or joined it by a policy. */
export function useOpenings(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['record', toValue(id), 'openings'],
    query: ({ signal }) =>
      answered(api.GET('/api/records/{id}/openings', { params: { path: { id: toValue(id) } }, signal })),
  })
}

/** The fields of contacts that the company made for itself. */
export function useFields() {
  return useQuery({
    key: ['fields'],
    query: ({ signal }) => answered(api.GET('/api/fields', { signal })),
  })
}

export function useChangeFields() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['FieldList']) => answered(api.PUT('/api/fields', { body })),
    onSuccess: () => askAgain('fields', 'directory-kinds', 'directory'),
  })
}

/** The company's own stages and channels. */
export function useStages() {
  return useQuery({
    key: ['stages'],
    query: ({ signal }) => answered(api.GET('/api/stages', { signal })),
  })
}
