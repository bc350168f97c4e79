<script setup lang="ts">
import { ref } from 'vue'

const props = defineProps<{ label: string; value: string; help?: string }>()
const copied = ref(false)
async function copy() {
  await navigator.clipboard.writeText(props.value)
  copied.value = true
  setTimeout(() => (copied.value = false), 1800)
}
</script>

<template>
  <div class="value">
    <dt>
      {{ label }}<span v-if="help" class="soft help">{{ help }}</span>
    </dt>
    <dd>
      <code>{{ value }}</code><button type="button" @click="copy">
        {{ copied ? 'Copied' : 'Copy' }}<span class="sr-only"> {{ label }}</span>
      </button>
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
button {
  font: inherit;
  font-size: 0.85rem;
  border: 1px solid var(--rule);
  background: var(--sheet);
  color: var(--ink);
  border-radius: 6px;
  padding: 0.05rem 0.6rem;
  cursor: pointer;
}
</style>
