import type { Schemas } from '../api/client'
import { words } from '../policy/rules'

export type More = Schemas['ContactMore']

/** As it stands in a form: tags are one text, and lists have rows. */
export type MoreForm = Omit<More, 'tags'> & { tags: string }

export const KINDS = [
  { value: '', title: 'No kind' },
  { value: 'work', title: 'Work' },
  { value: 'home', title: 'Home' },
]
export const KINDS_OF_NUMBERS = [...KINDS, { value: 'cell', title: 'Mobile' }, { value: 'fax', title: 'Fax' }]

export function formOf(more: More): MoreForm {
  return {
    ...(JSON.parse(JSON.stringify(more)) as More),
    tags: more.tags.filter((t) => !t.includes(',')).join(', '),
  }
}

/** @param seen what the form was filled from: a tag with a comma in it, which cannot be typed, stays */
export function moreOf(form: MoreForm, seen: More): More {
  return { ...form, tags: [...words(form.tags), ...seen.tags.filter((t) => t.includes(','))] }
}
