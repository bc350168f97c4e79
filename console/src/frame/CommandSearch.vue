<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { NModal } from 'naive-ui/es/modal'
import { computed, nextTick, ref, watch } from 'vue'
import { useCommands } from './useCommands'

/** Find and go: a combo box over a list (WAI-ARIA 1.2, 5.4), opened by Ctrl K from anywhere. */
const show = defineModel<boolean>('show', { required: true })
const words = ref('')
const ahead = ref(0)
const { commands } = useCommands(words, () => (show.value = false))
const idOf = (place: number) => `command-${place}`
watch(commands, () => (ahead.value = 0))

async function move(event: KeyboardEvent) {
  const last = commands.value.length - 1
  if (event.key === 'ArrowDown') ahead.value = Math.min(last, ahead.value + 1)
  else if (event.key === 'ArrowUp') ahead.value = Math.max(0, ahead.value - 1)
  else if (event.key === 'Enter') return commands.value[ahead.value]?.run()
  else return
  event.preventDefault()
  await nextTick()
  document.getElementById(idOf(ahead.value))?.scrollIntoView({ block: 'nearest' })
}
const said = computed(() => (words.value.trim() ? commands.value.length : undefined))
</script>

<template>
  <NModal v-model:show="show" :auto-focus="true" transform-origin="center">
    <div class="search sheet" role="dialog" aria-modal="true" :aria-label="$t('search.title')">
      <NInput
        v-model:value="words"
        autofocus
        size="large"
        :placeholder="$t('search.hint')"
        :input-props="{
          role: 'combobox',
          'aria-label': $t('search.hint'),
          'aria-expanded': true,
          'aria-controls': 'commands',
          'aria-activedescendant': commands.length ? idOf(ahead) : undefined,
          autocomplete: 'off',
        }"
        @keydown="move"
      />
      <ul id="commands" role="listbox" :aria-label="$t('search.title')">
        <li
          v-for="(command, place) in commands"
          :id="idOf(place)"
          :key="place"
          role="option"
          :aria-selected="place === ahead"
          :class="{ ahead: place === ahead }"
          @click="command.run()"
          @mousemove="ahead = place"
        >
          <span class="kind">{{ $t(`search.kind.${command.kind}`) }}</span>
          <span class="label">{{ command.label }}</span>
          <span class="soft">{{ command.detail }}</span>
        </li>
      </ul>
      <p v-if="!commands.length" class="soft">{{ $t('search.nothing', { words }) }}</p>
      <p class="keys soft">{{ $t('search.keys') }}</p>
      <p class="sr-only" role="status">
        <template v-if="said !== undefined">{{ $t('search.results', said) }}</template>
      </p>
    </div>
  </NModal>
</template>

<style scoped>
.search {
  width: min(40rem, 94vw);
  margin-bottom: auto;
  margin-top: 8vh;
}
ul {
  list-style: none;
  margin: 0.6rem 0;
  padding: 0;
  max-height: 50vh;
  overflow-y: auto;
}
li {
  display: flex;
  gap: 0.8rem;
  padding: 0.35rem 0.6rem;
  border-radius: 8px;
  cursor: pointer;
  flex-wrap: wrap;
}
li.ahead {
  background: var(--both-wash);
}
.kind {
  width: 5.5rem;
  color: var(--soft);
  font-size: 0.85rem;
}
.label {
  font-weight: 600;
}
.keys {
  font-size: 0.8rem;
  margin: 0;
}
</style>
