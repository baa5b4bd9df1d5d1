import { expect, it } from 'vitest'
import { formOf, moreOf, type More } from './moreOf'

const more: More = {
  name: { family: 'Quay', given: 'Ann', additional: '', prefix: '', suffix: '' },
  unit: '',
  role: 'Pilot',
  mails: [{ value: 'ann@quay.example', kind: 'work' }],
  phones: [],
  places: [{ street: 'Quay 1', town: 'Skarvik', region: '', code: '', country: '', kind: '' }],
  urls: [],
  birthday: '',
  note: 'one\ntwo',
  tags: ['berths', 'north, outer', 'winter'],
}

it('says the same of a form that nobody typed in, whatever its tags are', () => {
  const again = moreOf(formOf(more), more)
  expect({ ...again, tags: [...again.tags].sort() }).toEqual(more)
})

it('leaves what it was filled from alone', () => {
  const form = formOf(more)
  form.places[0]!.town = 'Elsewhere'
  form.tags = ' berths,, spring '
  expect(moreOf(form, more)).toMatchObject({ tags: ['berths', 'spring', 'north, outer'] })
  expect(more.places[0]!.town).toBe('Skarvik')
})
