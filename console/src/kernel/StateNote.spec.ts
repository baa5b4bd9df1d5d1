import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { Refused } from '../api/client'
import StateNote from './StateNote.vue'
import VerdictMark from './VerdictMark.vue'

describe('a note in a list’s place', () => {
  it('says what failed, what to do, and offers another try', async () => {
    let again = 0
    const error = new Refused(500, 'It broke', 'Wait a little.')
    const note = mount(StateNote, { props: { error, onAgain: () => again++ } })
    expect(note.attributes('role')).toBe('alert')
    expect(note.text()).toContain('It broke')
    expect(note.text()).toContain('Wait a little.')
    await note.find('button').trigger('click')
    expect(again).toBe(1)
    // a button that does nothing helps nobody
    expect(mount(StateNote, { props: { error } }).find('button').exists()).toBe(false)
  })

  it('lists the lines that do not fit, and no more than one can read', () => {
    const problems = Array.from({ length: 60 }, (_, i) => ({
      line: i + 2,
      column: 'name',
      reason: 'the cell is empty',
    }))
    const note = mount(StateNote, { props: { error: new Refused(422, 'No', 'Mend', problems) } })
    expect(note.findAll('li')).toHaveLength(51)
    expect(note.text()).toContain('line 2, name: the cell is empty')
    expect(note.text()).toContain('and 10 more')
    const noLine = [{ line: 0, column: 'birthday', reason: 'it is no day' }]
    const said = mount(StateNote, { props: { error: new Refused(422, 'No', 'Mend', noLine) } })
    expect(said.get('li').text()).toBe('birthday: it is no day')
  })

  it('loads, or is empty with what to do next', () => {
    expect(mount(StateNote, { props: { loading: true } }).text()).toBe('Loading…')
    expect(mount(StateNote, { props: { empty: 'Nothing', todo: 'Add one.' } }).text()).toBe('NothingAdd one.')
  })
})

it('a verdict is told by its word and a shape of its own', () => {
  const shapes = ['logged', 'waiting', 'left-out', 'unreadable'].map((verdict) =>
    mount(VerdictMark, { props: { verdict } }),
  )
  expect(shapes[2]?.text()).toBe('left out')
  expect(new Set(shapes.map((s) => s.find('path').attributes('d'))).size).toBe(4)
})
