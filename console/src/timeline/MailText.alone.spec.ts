import { mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import MailText from './MailText.vue'

vi.mock('vuetify', () => ({
  useTheme: () => ({ current: { value: { colors: { 'on-surface': '#111', surface: '#fff' } } } }),
}))

function shown(props: Partial<{ text: string; newText: string; html: string; state: string }>) {
  const text = props.text ?? 'New words'
  return mount(MailText, { props: { text, newText: text, html: '', state: 'here', ...props } })
}

describe('what a message says', () => {
  const quoted = { text: 'New words\n\n> old words', newText: 'New words' }
  let message = shown(quoted)
  beforeEach(() => (message = shown(quoted)))

  it('is what it adds; the whole is one click away, and back', async () => {
    expect(message.text()).not.toContain('old words')
    const button = message.get('button')
    expect(button.attributes('aria-expanded')).toBe('false')
    await button.trigger('click')
    expect(message.text()).toContain('old words')
    expect(button.attributes('aria-expanded')).toBe('true')
    await button.trigger('click')
    expect(message.text()).not.toContain('old words')
  })

  it('closes again when another message is opened', async () => {
    await message.get('button').trigger('click')
    await message.setProps({ text: 'Others\n> older', newText: 'Others' })
    expect(message.text()).not.toContain('older')
  })

  it('offers nothing more where there is nothing more', () => {
    expect(shown({ text: 'All of it\n', newText: 'All of it' }).find('button').exists()).toBe(false)
  })
})

describe('laid out', () => {
  it('it is shown in a frame where nothing runs and nothing is fetched', async () => {
    const message = shown({ html: '<p>Bold</p>' })
    expect(message.find('iframe').exists()).toBe(false)
    await message.get('button').trigger('click')
    const frame = message.get('iframe')
    expect(frame.attributes('sandbox')).not.toMatch(/allow-(scripts|same-origin|forms|top)/)
    expect(frame.attributes('srcdoc')).toContain("default-src 'none'")
    expect(frame.attributes('srcdoc')).toContain('<p>Bold</p>')
  })
})

it('says where its text is when it is not here', () => {
  expect(shown({ state: 'wanted' }).text()).toContain('being fetched')
  expect(shown({ state: 'gone' }).text()).toContain('no longer has it')
  expect(shown({ text: '' }).text()).toContain('no text')
})
