import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, reactive } from 'vue'
import { useEdited } from './useEdited'

function edited() {
  const server = reactive({ id: 1, title: 'Buoys', ask: false })
  const scope = effectScope()
  const form = scope.run(() =>
    useEdited(
      () => ({ title: server.title, ask: server.ask }),
      () => server.id,
    ),
  )!
  return { server, ...form }
}

describe('a form over what the server says', () => {
  it('is not overwritten by news where somebody is typing, and follows them elsewhere', async () => {
    const { server, form, changed, seen } = edited()
    form.title = 'Buoys and'
    server.title = 'Lamps'
    server.ask = true
    await nextTick()
    expect(form).toEqual({ title: 'Buoys and', ask: true })
    expect(seen.title).toBe('Buoys')
    expect(changed.value).toBe(true)
  })

  it('follows everything as long as nobody types', async () => {
    const { server, form, changed } = edited()
    server.title = 'Lamps'
    await nextTick()
    expect(form.title).toBe('Lamps')
    expect(changed.value).toBe(false)
  })

  it('is filled anew for another thing, whatever was typed', async () => {
    const { server, form, changed } = edited()
    form.title = 'Buoys and'
    server.id = 2
    server.title = 'Nets'
    await nextTick()
    expect(form.title).toBe('Nets')
    expect(changed.value).toBe(false)
  })

  it('can be saved over what is there now, once that was seen', async () => {
    const { server, form, seen, overNow, saved, changed } = edited()
    form.title = 'Buoys and'
    server.title = 'Lamps'
    await nextTick()
    overNow()
    expect([form.title, seen.title]).toEqual(['Buoys and', 'Lamps'])
    saved()
    expect(changed.value).toBe(false)
  })
})
