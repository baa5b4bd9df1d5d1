import { mount } from '@vue/test-utils'
import { nextTick, ref, useTemplateRef } from 'vue'
import { expect, it } from 'vitest'
import { useKeptFocus } from './useKeptFocus'

const meetings = ref([{ id: 'a', day: 1 }])
const Days = {
  setup() {
    useKeptFocus(useTemplateRef('root'), () => meetings.value)
    return { meetings }
  },
  template: `<div ref="root"><div v-for="d in 2" :key="d"><template v-for="m in meetings" :key="m.id">
    <button v-if="m.day === d" :data-meeting="m.id">{{ d }}</button></template></div></div><button id="other" />`,
}

it('stays on a meeting that is drawn elsewhere, and nowhere else', async () => {
  const page = mount(Days, { attachTo: document.body })
  document.querySelector<HTMLElement>('[data-meeting]')!.focus()
  meetings.value = [{ id: 'a', day: 2 }]
  await nextTick()
  await nextTick()
  expect(document.activeElement?.textContent).toBe('2')
  document.querySelector<HTMLElement>('#other')!.focus()
  meetings.value = [{ id: 'a', day: 1 }]
  await nextTick()
  await nextTick()
  expect(document.activeElement?.id).toBe('other')
  page.unmount()
})
