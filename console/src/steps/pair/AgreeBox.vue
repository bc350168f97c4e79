<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import ConsentPanel from './ConsentPanel.vue'

/** What is about to be paired, what pairing lets Venn Pair read and write, and the last word on it. */
defineProps<{
  shell: string
  label?: string
  /** The course in words. */
  words: string
  agreed: boolean
  /** Whether the publisher makes the course first, so that it may be given a name. */
  made: boolean
  busy: boolean
}>()
const name = defineModel<string>('name', { required: true })
const emit = defineEmits<{ agree: []; close: [] }>()
</script>

<template>
  <section class="sheet agree" aria-labelledby="agreement">
    <h2 id="agreement">
      {{
        $t('pair.choose_course.before_is_paired_with', {
          label: label,
          words: words,
          once: agreed ? '' : $t('pair.choose_course.your_agreement_once'),
        })
      }}
    </h2>
    <ConsentPanel v-if="!agreed" :shell="shell" />
    <NInput
      v-if="made"
      v-model:value="name"
      :maxlength="200"
      :placeholder="$t('pair.choose_course.its_name_at_the_publisher')"
      :input-props="{ 'aria-label': $t('pair.choose_course.name_of_new') }"
    />
    <div class="row">
      <NButton id="agree" type="primary" :loading="busy" @click="emit('agree')">{{
        agreed ? $t('pair.choose_course.pair_them') : $t('pair.choose_course.i_agree_pair_them')
      }}</NButton><NButton @click="emit('close')">{{ $t('pair.choose_course.not_now') }}</NButton
      ><span class="soft">{{ $t('pair.choose_course.you_can_withdraw_it_at') }}</span>
    </div>
  </section>
</template>

<style scoped>
.agree {
  border-color: var(--both);
  border-width: 2px;
  margin-bottom: 1rem;
}
.agree .row {
  margin-top: 0.8rem;
}
</style>
