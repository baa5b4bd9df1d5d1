<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import RecordField from '../timeline/RecordField.vue'
import { useSettle, useUndo, type Choice, type Stranger } from './queries'

const props = defineProps<{ meant: Stranger[]; whole: string[] }>()
const emit = defineEmits<{ settled: [] }>()
const { mutateAsync, error, asyncStatus, reset } = useSettle()
const { mutateAsync: undo } = useUndo()

const items = computed(() => props.meant.reduce((sum, s) => sum + s.items, 0))
const likely = computed(() => props.meant[0]?.likely ?? [])
const contact = computed(() => likely.value.find((l) => l.kind === 'contact'))
const likelyAccount = computed(() => likely.value.find((l) => l.kind === 'account'))
const name = ref('')
const account = ref<{ id: string; name: string } | null>(null)
const where = computed(() => account.value?.name ?? likelyAccount.value?.name ?? '')
watch(
  () => props.meant.map((s) => s.address).join(),
  () => {
    name.value = ''
    account.value = null
    reset()
  },
)

async function settle(choice: Choice, record?: string) {
  if (!props.meant.length || asyncStatus.value === 'loading') return
  await mutateAsync({
    choice,
    addresses: props.meant.map((s) => s.address),
    domains: choice === 'exclude' || choice === 'new-account' ? props.whole : [],
    record: record ?? null,
    name: name.value || null,
  }).then(
    (done) => {
      tell(`${done.says}: ${many(done.items, 'item')} decided again`, () => undo(done.deed))
      emit('settled')
    },
    () => undefined,
  )
}
const choices = computed(() => [
  ...(contact.value
    ? [
        {
          keys: 'i',
          label: `It is ${contact.value.name}`,
          run: () => settle('contact', contact.value?.id),
          moves: true,
        },
      ]
    : []),
  {
    keys: 'c',
    label: `New ${props.meant.length > 1 ? 'contacts' : 'contact'}${where.value ? ` at ${where.value}` : ', at no account'}`,
    run: () => settle('new-contact', account.value?.id ?? likelyAccount.value?.id),
    moves: true,
  },
  {
    keys: 'l',
    label: props.meant.length > 1 ? 'New leads' : 'New lead',
    run: () => settle('new-lead'),
    moves: true,
  },
  ...(where.value
    ? [
        {
          keys: 'o',
          label: `New opportunity at ${where.value}`,
          run: () => settle('new-opportunity', account.value?.id ?? likelyAccount.value?.id),
          moves: true,
        },
      ]
    : []),
  { keys: 'a', label: 'New account with its domain', run: () => settle('new-account'), moves: true },
  {
    keys: 'x',
    label: `Exclude ${props.whole.length ? props.whole.join(', ') : many(props.meant.length, 'address', 'addresses')}`,
    run: () => settle('exclude'),
    moves: true,
  },
  {
    keys: 'h',
    label: 'Not interesting, until something new comes',
    run: () => settle('not-interesting'),
    moves: false,
  },
])
useShortcuts(
  [
    ['i', 'It is the likely contact'],
    ['c', 'Make them contacts'],
    ['l', 'Make them leads'],
    ['o', 'Make an opportunity with them'],
    ['a', 'Make their domain an account'],
    ['x', 'Exclude them'],
    ['h', 'Not interesting'],
  ].map(([keys, does]) => ({
    keys: keys!,
    does: does!,
    run: () => void choices.value.find((c) => c.keys === keys)?.run(),
  })),
)
</script>

<template>
  <section class="settle" aria-label="What they are">
    <p v-if="!meant.length" class="quiet">Nobody is chosen.</p>
    <template v-else>
      <h2>
        {{
          meant.length === 1 ? meant[0]!.name || meant[0]!.address : many(meant.length, 'person', 'people')
        }}
      </h2>
      <p class="quiet">
        {{
          meant.length === 1
            ? meant[0]!.address
            : meant
                .map((s) => s.address)
                .slice(0, 3)
                .join(', ') + (meant.length > 3 ? ' …' : '')
        }}
      </p>
      <ul v-if="likely.length" class="evidence">
        <li v-for="l in likely" :key="l.id">{{ l.name }}: {{ l.why }}</li>
      </ul>
      <v-text-field
        v-if="meant.length === 1 || whole.length === 1"
        v-model="name"
        label="Name"
        :placeholder="meant[0]!.name || 'as the address suggests'"
        persistent-placeholder
      />
      <RecordField
        v-model="account"
        label="Account"
        kind="account"
        :placeholder="likelyAccount?.name || 'none; part of a name'"
      />
      <v-btn
        v-for="c in choices"
        :key="c.keys"
        class="choice"
        variant="outlined"
        :disabled="asyncStatus === 'loading'"
        @click="c.run()"
      >
        <kbd>{{ c.keys }}</kbd>
        <span>{{ c.label }}</span>
        <span v-if="c.moves" class="quiet">{{ many(items, 'item') }}</span>
      </v-btn>
      <StateNote v-if="error" :error="error" @again="reset()" />
    </template>
  </section>
</template>

<style scoped>
.settle {
  padding: 14px 16px;
  display: grid;
  gap: 8px;
  align-content: start;
}
h2 {
  font-size: 17px;
}
.evidence {
  margin: 0;
  padding-left: 18px;
}
.choice {
  height: auto;
  min-height: 34px;
  padding: 5px 8px;
  border-color: var(--line);
  font-weight: 400;
}
.choice :deep(.v-btn__content) {
  width: 100%;
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto;
  gap: 8px;
  text-align: left;
  white-space: normal;
}
</style>
