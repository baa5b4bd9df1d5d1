import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
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

  it('is shown as long as any other, however soon it follows one', async () => {
    vi.useFakeTimers()
    const bar = mount(SnackBar)
    for (const says of ['One', 'Two', 'Three']) {
      tell(says)
      await nextTick()
      await nextTick()
      vi.advanceTimersByTime(9_900)
      expect(said.value).toEqual({ says })
    }
    vi.advanceTimersByTime(200)
    expect(said.value).toBeNull()
    bar.unmount()
    vi.useRealTimers()
  })
})
