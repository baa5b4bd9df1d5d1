import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { h } from 'vue'
import { VBtn } from 'vuetify/components/VBtn'
import './vuetify'

describe('a button that is busy', () => {
  it('says so to who does not see it turn', () => {
    const shown = mount(() => h(VBtn, { loading: true }, () => 'Show more'))
    expect(shown.get('[role=progressbar]').attributes('aria-label')).toBe('Loading')
  })
})
