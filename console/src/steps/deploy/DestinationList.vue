<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'

const props = defineProps<{ outline: Schemas['Node'][] }>()
/** The folder's id, a new folder's title, or empty for the top of the outline. */
const folder = defineModel<string>({ required: true })
const choice = ref('')
const fresh = ref('Homework')
const folders = computed(() => props.outline.filter((node) => node.kind === 'folder'))
watch([choice, fresh], () => (folder.value = choice.value === 'new' ? fresh.value.trim() || 'Homework' : choice.value))
</script>

<template>
  <ul>
    <li><label><input v-model="choice" type="radio" name="folder" value="" /> at the top of the outline</label></li>
    <li class="row">
      <label><input v-model="choice" type="radio" name="folder" value="new" /> in a new folder</label>
      <NInput v-if="choice === 'new'" v-model:value="fresh" size="small" :maxlength="255" :input-props="{ 'aria-label': 'Title of the new folder' }" style="max-width: 16rem" />
    </li>
    <li v-for="node in outline" :key="node.id" :style="{ paddingLeft: `${node.depth * 1.2}rem` }" :class="{ hidden: !node.visible }">
      <label v-if="node.kind === 'folder'"><input v-model="choice" type="radio" name="folder" :value="node.id" /> {{ node.title }}</label>
      <span v-else class="entry soft"><span aria-hidden="true">{{ node.kind === 'lti_link' ? '↗' : '·' }}</span> {{ node.title }}<template v-if="!node.visible"> (hidden)</template></span>
    </li>
  </ul>
  <p v-if="!folders.length" class="soft">The shell has no folders yet.</p>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 0; }
li { padding: 0.14rem 0; }
.entry { padding-left: 1.3rem; }
input[type='radio'] { accent-color: var(--both); }
</style>
