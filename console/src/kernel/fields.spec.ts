import { mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import DateField from './DateField.vue'
import TimeField from './TimeField.vue'
import { screen } from './screen'

beforeEach(() => void Object.assign(screen, { dates: 'day-month', hours: 24 }))

describe('a day in a field', () => {
  async function typed(text: string, required = false) {
    const field = mount(DateField, { props: { label: 'From', modelValue: '2026-05-04', required } })
    const input = field.get('input')
    await input.setValue(text)
    await input.trigger('blur')
    return { said: field.emitted('update:modelValue')?.at(-1)?.[0], shows: input.element.value }
  }

  it('is written as the reader prefers', () => {
    screen.dates = 'month-day'
    const field = mount(DateField, { props: { label: 'From', modelValue: '2026-05-04' } })
    expect(field.get('input').element.value).toBe('05/04/2026')
  })
  it('is taken as it was typed', async () => {
    expect((await typed('6.7.2027')).said).toBe('2027-07-06')
    expect((await typed('')).said).toBe('')
  })
  it('is put back where it is no day, or has to be there', async () => {
    expect(await typed('31.2.2026')).toEqual({ said: undefined, shows: '04/05/2026' })
    expect(await typed('', true)).toEqual({ said: undefined, shows: '04/05/2026' })
  })
})

describe('a time in a field', () => {
  it('is taken, stepped by quarters of an hour, and put back where it is none', async () => {
    const field = mount(TimeField, { props: { label: 'Starts', modelValue: 540 } })
    const input = field.get('input')
    expect(input.element.value).toBe('09:00')
    await input.setValue('2 pm')
    await input.trigger('blur')
    expect(field.emitted('update:modelValue')?.at(-1)).toEqual([840])
    await field.setProps({ modelValue: 840 })
    await input.trigger('keydown', { key: 'ArrowUp' })
    expect(field.emitted('update:modelValue')?.at(-1)).toEqual([855])
    await input.setValue('noon')
    await input.trigger('blur')
    expect(input.element.value).toBe('14:15')
  })
})
