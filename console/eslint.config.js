import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import vue from 'eslint-plugin-vue'

export default defineConfigWithVueTs(
  { ignores: ['dist/**', 'src/api/schema.d.ts'] },
  vue.configs['flat/recommended'],
  vueTsConfigs.recommended,
  // how things are laid out is Prettier's
  { rules: { ...vue.configs['no-layout-rules'].rules, 'vue/multi-word-component-names': 'off' } },
)
