<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useTheme } from 'vuetify'

/**
 * What an item says. HTML was made clean by the service and is shown in a frame of its own in which nothing runs and nothing
 * is fetched.
 */
const props = defineProps<{ text: string; newText: string; html: string; state: string }>()
const asHtml = ref(false)
const whole = ref(false)
const hasMore = computed(() => props.newText.trim().length < props.text.trim().length)
const theme = useTheme()
watch(
  () => props.text,
  () => (asHtml.value = whole.value = false),
)
const page = computed(() => {
  const c = theme.current.value.colors
  return (
    `<!doctype html><meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'">` +
    `<base target="_blank"><style>body{font:14px/1.45 sans-serif;margin:0;color:${c['on-surface']};background:${c.surface}}a{color:inherit}</style>${props.html}`
  )
})
</script>

<template>
  <div class="body">
    <p v-if="state === 'wanted'" class="quiet" role="status">
      Its text is being fetched from the mailbox; look again in a moment.
    </p>
    <p v-else-if="state === 'gone'" class="quiet">Its text is not here: the mailbox no longer has it.</p>
    <template v-else>
      <p v-if="!text && !html" class="quiet">It has no text.</p>
      <text-btn v-if="html" class="quiet" @click="asHtml = !asHtml">
        {{ asHtml ? 'Show as plain text' : 'Show as it was laid out' }}
      </text-btn>
      <iframe
        v-if="asHtml"
        :srcdoc="page"
        sandbox="allow-popups allow-popups-to-escape-sandbox"
        title="The message as it was laid out"
        referrerpolicy="no-referrer"
      />
      <template v-else>
        <div class="text">{{ whole ? text : newText }}</div>
        <text-btn v-if="hasMore" class="quiet rest" :aria-expanded="whole" @click="whole = !whole">
          {{ whole ? 'Hide what was quoted and the signature' : 'Show the whole text' }}
        </text-btn>
      </template>
    </template>
  </div>
</template>

<style scoped>
.body {
  margin-top: 12px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
.text {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  max-width: 76ch;
}
.rest {
  margin-top: 8px;
}
iframe {
  width: 100%;
  height: 40vh;
  border: 0;
  margin-top: 8px;
}
</style>
