<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { useSay } from './useSay'

const props = defineProps<{ label: string; value: string; help?: string }>()
const say = useSay()
async function copy(words: string) {
  await navigator.clipboard.writeText(props.value)
  say(words)
}
</script>

<template>
  <div class="value">
    <dt>
      {{ label }}<span v-if="help" class="soft help">{{ help }}</span>
    </dt>
    <dd>
      <code>{{ value }}</code><NButton size="tiny" @click="copy($t('common.copied'))"
        >{{ $t('common.copy') }}<span class="sr-only"> {{ label }}</span></NButton
      >
    </dd>
  </div>
</template>

<style scoped>
.value {
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
dt {
  font-weight: 600;
  font-size: 0.9rem;
}
.help {
  font-weight: 400;
  margin-left: 0.5rem;
}
dd {
  margin: 0;
  display: flex;
  gap: 0.7rem;
  align-items: flex-start;
}
code {
  flex: 1;
  overflow-wrap: anywhere;
  white-space: pre-wrap;
  font-size: 0.85rem;
}
</style>
