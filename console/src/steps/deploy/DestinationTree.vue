<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { type Destination, outlineOf } from '@/logic/outline'
import LabeledField from '@/parts/LabeledField.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { t } from '@/words'
import OutlineTree from './OutlineTree.vue'

/** Where the chosen items go: a folder for each unit, a new folder, or a place of the outline. */
const props = defineProps<{
  outline: Schemas['Node'][]
  plan?: Schemas['Plan']
  chosen: boolean
}>()
const place = defineModel<Destination>({ required: true })
defineEmits<{ leave: [item: string] }>()
const choice = ref<'unit' | 'new' | 'here'>(place.value.into === 'unit' ? 'unit' : 'here')
const fresh = ref(t('outline.homework'))
const around = ref('')
const folders = computed(() => props.outline.filter((node) => node.kind === 'folder'))
const tree = computed(() => outlineOf(props.outline, props.plan, place.value))
const node = computed(() => props.outline.find((each) => each.id === place.value.folder))
const beside = computed(() =>
  props.outline.filter((each) => each.folder === node.value?.id && each.kind !== 'folder'),
)
watch([choice, fresh, around], () => {
  if (choice.value === 'unit') place.value = { into: 'unit', folder: around.value, after: '' }
  else if (choice.value === 'new')
    place.value = {
      into: 'folder',
      folder: fresh.value.trim() || t('outline.homework'),
      after: '',
    }
  else if (place.value.into === 'unit' || !node.value)
    place.value = { into: 'folder', folder: '', after: '' }
})
function choose(now: Destination) {
  choice.value = 'here'
  place.value = now
}
</script>

<template>
  <NRadioGroup v-model:value="choice" name="place" :aria-label="$t('outline.where')" class="ways">
    <NRadio value="unit">{{ $t('outline.unit') }}</NRadio>
    <NRadio value="new">{{ $t('outline.new') }}</NRadio>
    <NRadio value="here">{{ $t('outline.here') }}</NRadio>
  </NRadioGroup>
  <LabeledField v-if="choice === 'unit'" :label="$t('outline.inside')">
    <ChooseOne
      v-model:value="around"
      :label="$t('outline.inside')"
      :options="[
        { value: '', label: $t('outline.top') },
        ...folders.map((each) => ({ value: each.id, label: each.title })),
      ]"
    />
  </LabeledField>
  <NInput
    v-if="choice === 'new'"
    v-model:value="fresh"
    size="small"
    :maxlength="255"
    placeholder=""
    :input-props="{ 'aria-label': $t('outline.new_title') }"
  />
  <template v-if="choice === 'here' && node">
    <NInput
      v-if="node.kind === 'page'"
      :value="place.after_text ?? ''"
      size="small"
      :placeholder="$t('outline.at_end')"
      :input-props="{ 'aria-label': $t('outline.paragraph', { title: node.title }) }"
      @update:value="place = { ...place, after_text: $event.trim() }"
    />
    <LabeledField
      v-else-if="node.kind === 'folder' && beside.length"
      :label="$t('outline.place_in', { title: node.title })"
    >
      <ChooseOne
        :value="place.after"
        :label="$t('outline.place_in', { title: node.title })"
        :options="[
          { value: '', label: $t('outline.by_order') },
          { value: 'start', label: $t('outline.first') },
          ...beside.map((each) => ({
            value: each.id,
            label: $t('outline.after', { title: each.title }),
          })),
        ]"
        @chosen="place = { ...place, after: $event }"
      />
    </LabeledField>
  </template>
  <OutlineTree
    class="outline"
    :tree="tree"
    :place="place"
    :chosen="chosen"
    @choose="choose"
    @leave="$emit('leave', $event)"
  />
</template>

<style scoped>
.ways {
  display: grid;
  gap: 0.25rem;
  margin-bottom: 0.5rem;
}
.labeled {
  margin-bottom: 0.5rem;
}
</style>
