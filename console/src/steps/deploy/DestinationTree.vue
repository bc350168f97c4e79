<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'

export interface Destination {
  into: 'folder' | 'unit' | 'heading' | 'page'
  folder: string
  /** The entry after which they go, or `start`; empty: where their order puts them. */
  after: string
  /** In a page: words of the paragraph after which they go; empty: its end. */
  after_text?: string
}
const props = defineProps<{ outline: Schemas['Node'][] }>()
const place = defineModel<Destination>({ required: true })
const choice = ref(place.value.into === 'unit' ? 'unit' : '')
const fresh = ref('Homework')
const around = ref('')
const over = ref('')
const after = ref('')
const paragraph = ref('')
const can = (node: Schemas['Node']) => ['folder', 'heading', 'page'].includes(node.kind)
const folders = computed(() => props.outline.filter((node) => node.kind === 'folder'))
const beside = computed(() =>
  props.outline.filter((node) => node.folder === choice.value && node.kind !== 'folder'),
)
watch(choice, () => (after.value = ''))
const onPage = computed(
  () => props.outline.find((each) => each.id === choice.value)?.kind === 'page',
)
watch([choice, fresh, around, after, paragraph], () => {
  const node = props.outline.find((each) => each.id === choice.value)
  if (choice.value === 'unit') place.value = { into: 'unit', folder: around.value, after: '' }
  else if (choice.value === 'new')
    place.value = { into: 'folder', folder: fresh.value.trim() || 'Homework', after: '' }
  else
    place.value = {
      into: node?.kind === 'heading' || node?.kind === 'page' ? node.kind : 'folder',
      folder: choice.value,
      after: after.value,
      after_text: onPage.value ? paragraph.value.trim() : '',
    }
})
function drop(id: string) {
  choice.value = id
  over.value = ''
}
</script>

<template>
  <ul>
    <li>
      <label
        ><input v-model="choice" type="radio" name="place" value="unit" /> a folder for each unit,
        by its name</label
      >
    </li>
    <li v-if="choice === 'unit'" class="more">
      <label
        >inside
        <select v-model="around">
          <option value="">the top of the outline</option>
          <option v-for="node in folders" :key="node.id" :value="node.id">
            {{ '  '.repeat(node.depth) + node.title }}
          </option>
        </select></label
      >
    </li>
    <li class="row">
      <label><input v-model="choice" type="radio" name="place" value="new" /> a new folder</label>
      <NInput
        v-if="choice === 'new'"
        v-model:value="fresh"
        size="small"
        :maxlength="255"
        :input-props="{ 'aria-label': 'Title of the new folder' }"
        style="max-width: 16rem"
      />
    </li>
    <li
      :class="{ over: over === 'top' }"
      @dragover.prevent="over = 'top'"
      @dragleave="over = ''"
      @drop.prevent="drop('')"
    >
      <label
        ><input v-model="choice" type="radio" name="place" value="" /> the top of the outline</label
      >
    </li>
    <li
      v-for="node in outline"
      :key="node.id"
      :style="{ paddingLeft: `${node.depth * 1.2}rem` }"
      :class="{ over: over === node.id }"
      @dragover="can(node) && ($event.preventDefault(), (over = node.id))"
      @dragleave="over = ''"
      @drop.prevent="drop(node.id)"
    >
      <template v-if="can(node)">
        <label
          ><input v-model="choice" type="radio" name="place" :value="node.id" />
          <strong v-if="node.kind === 'folder'">{{ node.title }}</strong><template v-else
            >{{ node.kind === 'heading' ? 'under' : 'in the text of' }} {{ node.title }}</template
          ><span v-if="!node.visible" class="soft"> (hidden)</span></label
        >
        <div v-if="node.kind === 'page' && node.id === choice" class="more">
          <NInput
            v-model:value="paragraph"
            size="small"
            placeholder="at its end, or after the paragraph with these words"
            :input-props="{ 'aria-label': `Words of the paragraph of ${node.title}` }"
          />
        </div>
        <div v-if="node.kind === 'folder' && node.id === choice && beside.length" class="more">
          <label
            >there
            <select v-model="after" :aria-label="`Where in ${node.title}`">
              <option value="">where their order puts them</option>
              <option value="start">first</option>
              <option v-for="each in beside" :key="each.id" :value="each.id">
                after {{ each.title }}
              </option>
            </select></label
          >
        </div>
      </template>
      <span v-else class="entry soft"
        ><span aria-hidden="true">{{ node.kind === 'lti_link' ? '↗' : '·' }}</span> {{ node.title
        }}<template v-if="!node.visible"> (hidden)</template></span
      >
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 0.14rem 0;
  border-radius: 6px;
}
.over {
  background: var(--both-wash);
}
.entry {
  padding-left: 1.3rem;
}
.more {
  padding-left: 1.4rem;
}
strong {
  font-weight: 600;
}
input[type='radio'] {
  accent-color: var(--both);
}
select {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.2rem 0.4rem;
  max-width: 100%;
}
</style>
