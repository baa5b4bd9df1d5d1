import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { handle, isTyping, keysOf, useActiveShortcuts, useShortcuts } from './shortcuts'

function key(init: KeyboardEventInit, target: HTMLElement = document.body): KeyboardEvent {
  const event = new KeyboardEvent('keydown', { ...init, bubbles: true, cancelable: true })
  Object.defineProperty(event, 'target', { value: target })
  return event
}

describe('shortcuts', () => {
  it('names keys in one way', () => {
    expect(keysOf(key({ key: 'A', altKey: true }))).toBe('Alt+a')
    expect(keysOf(key({ key: 'Escape' }))).toBe('Escape')
  })

  it('runs while its part is shown, and is silent while somebody types', () => {
    const run = vi.fn()
    const part = mount({ setup: () => useShortcuts([{ keys: '/', does: 'Find', run }]), template: '<i />' })
    const input = document.createElement('input')
    expect(isTyping(input)).toBe(true)
    handle(key({ key: '/' }, input))
    expect(run).not.toHaveBeenCalled()
    handle(key({ key: '/' }))
    expect(run).toHaveBeenCalledOnce()
    part.unmount()
    expect(useActiveShortcuts().value).toEqual([])
    handle(key({ key: '/' }))
    expect(run).toHaveBeenCalledOnce()
  })

  it('lets the part opened last answer first', () => {
    const outer = vi.fn()
    const inner = vi.fn()
    mount({ setup: () => useShortcuts([{ keys: 'Escape', does: 'a', run: outer }]), template: '<i />' })
    mount({ setup: () => useShortcuts([{ keys: 'Escape', does: 'b', run: inner }]), template: '<i />' })
    handle(key({ key: 'Escape' }, document.createElement('input')))
    expect(inner).toHaveBeenCalledOnce()
    expect(outer).not.toHaveBeenCalled()
  })

  it('takes two keys one after the other, and forgets the first in time', () => {
    const page = vi.fn()
    const single = vi.fn()
    mount({
      setup: () =>
        useShortcuts([
          { keys: 'g t', does: 'Timelines', run: page },
          { keys: 't', does: 'Today', run: single },
        ]),
      template: '<i />',
    })
    handle(key({ key: 'g' }), 1_000)
    handle(key({ key: 't' }), 1_500)
    expect(page).toHaveBeenCalledOnce()
    expect(single).not.toHaveBeenCalled()
    handle(key({ key: 'g' }), 5_000)
    handle(key({ key: 't' }), 9_000)
    expect(page).toHaveBeenCalledOnce()
    expect(single).toHaveBeenCalledOnce()
  })

  it('hears Ctrl with a key even while somebody types', () => {
    const run = vi.fn()
    mount({ setup: () => useShortcuts([{ keys: 'Ctrl+k', does: 'Jump', run }]), template: '<i />' })
    handle(key({ key: 'k', ctrlKey: true }, document.createElement('input')))
    expect(run).toHaveBeenCalledOnce()
  })
})
