import type { Schemas } from '../api/client'
import { words } from '../policy/rules'

/** A field as it is edited: its choices are one line, and a key follows the name until somebody types one. */
export interface FieldRow {
  key: string
  name: string
  kind: string
  choices: string
  contacts: number
  isNew: boolean
  typed: boolean
}

export const KINDS_OF_FIELDS = [
  { value: 'text', title: 'Text' },
  { value: 'number', title: 'A number' },
  { value: 'date', title: 'A date' },
  { value: 'choice', title: 'A choice' },
]

const LONGEST_KEY = 40

export function rowsOf(fields: readonly Schemas['FieldInfo'][]): FieldRow[] {
  return fields.map(({ key, name, kind, choices, contacts }) => ({
    key,
    name,
    kind,
    choices: (choices ?? []).join(', '),
    contacts,
    isNew: false,
    typed: true,
  }))
}

export function listOf(rows: readonly FieldRow[]): Schemas['FieldInfo'][] {
  return rows.map(({ key, name, kind, choices }) => ({
    key,
    name,
    kind,
    choices: kind === 'choice' ? words(choices) : null,
    contacts: 0,
  }))
}

/** Such as `renewed_on` for “Renewed on”; empty where a name has no letters of the Latin alphabet. */
export function keyFor(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+/, '')
    .slice(0, LONGEST_KEY)
    .replace(/_+$/, '')
}
