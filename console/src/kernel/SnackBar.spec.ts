import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import SnackBar from './SnackBar.vue'
import { said, tell } from './snackbar'
import { handle } from './shortcuts'

afterEach(() => void (said.value = null))
const undoKey = () => {
  const event = new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, cancelable: true })
  Object.defineProperty(event, 'target', { value: document.body })
  return event
}

describe('what was done', () => {
  it('is undone by Ctrl+Z, once', async () => {
    const bar = mount(SnackBar)
    const undo = vi.fn(() => Promise.resolve())
    tell('Paused', undo)
    handle(undoKey())
    handle(undoKey())
    await flushPromises()
    expect(undo).toHaveBeenCalledOnce()
    expect(said.value).toEqual({ says: 'Undone: Paused' })
    handle(undoKey())
    await flushPromises()
    expect(undo).toHaveBeenCalledOnce()
    bar.unmount()
  })

  it('says why where it cannot be', async () => {
    const bar = mount(SnackBar)
    tell('Moved', () => Promise.reject(new Error('Somebody moved it again')))
    handle(undoKey())
    await flushPromises()
    expect(said.value?.says).toBe('Not undone: Somebody moved it again')
    bar.unmount()
  })
})
