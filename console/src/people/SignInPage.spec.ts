import { PiniaColada } from '@pinia/colada'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import SignInPage from './SignInPage.vue'

const asked: string[] = []
beforeEach(() => {
  asked.length = 0
  document.cookie = 'XSRF-TOKEN=; max-age=0'
  vi.stubGlobal('fetch', (request: Request | string) => {
    const { method, url } = typeof request === 'string' ? { method: 'GET', url: request } : request
    asked.push(`${method} ${new URL(url, 'http://here').pathname}`)
    return Promise.resolve(
      method === 'GET' ? Response.json({ title: 'Sign in' }, { status: 401 }) : Response.json({}),
    )
  })
})

async function page(at = '/sign-in') {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:all(.*)', component: { template: '<i />' } }],
  })
  await router.push(at)
  return mount(SignInPage, {
    attachTo: document.body,
    global: { plugins: [createPinia(), PiniaColada, router] },
  })
}

describe('signing in', () => {
  it('has the login’s focus at once, and never takes it from another field afterwards', async () => {
    const shown = await page()
    const [login, password] = shown.findAll('input')
    expect(document.activeElement).toBe(login!.element)
    password!.element.focus()
    await flushPromises()
    await new Promise((done) => setTimeout(done, 50))
    expect(document.activeElement).toBe(password!.element)
    shown.unmount()
  })

  it('gets the token that it lacks first, so that a service which was away does not refuse it', async () => {
    const shown = await page()
    await flushPromises()
    asked.length = 0
    await shown.get('form').trigger('submit')
    await flushPromises()
    expect(asked.slice(0, 2)).toEqual(['GET /api/session', 'POST /api/session'])
    shown.unmount()
  })

  it('goes where somebody was going once, though it hears only then that they are signed in', async () => {
    let late: (answer: Response) => void = () => undefined
    vi.stubGlobal('fetch', (request: Request | string) => {
      const { method, url } = typeof request === 'string' ? { method: 'GET', url: request } : request
      const path = new URL(url, 'http://here').pathname
      asked.push(`${method} ${path}`)
      if (asked.filter((a) => a === 'GET /api/session').length === 1 && asked.at(-1) === 'GET /api/session')
        return new Promise<Response>((answer) => (late = answer))
      return Promise.resolve(
        path === '/api/session'
          ? Response.json({ role: 'rep' })
          : Response.json({ title: 'No' }, { status: 404 }),
      )
    })
    const shown = await page('/sign-in?to=/calendar')
    await flushPromises()
    await shown.get('form').trigger('submit')
    await flushPromises()
    expect(asked).toContain('POST /api/session')
    const { $router: router } = shown.vm as unknown as {
      $router: { currentRoute: { value: { path: string } } }
    }
    expect(router.currentRoute.value.path).toBe('/calendar')
    late(Response.json({ role: 'rep' }))
    await flushPromises()
    expect(router.currentRoute.value.path).toBe('/calendar')
    shown.unmount()
  })
})
