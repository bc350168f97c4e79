<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useSendingAgain } from './useSendingAgain'

/** Compare what was sent with the gradebook, then send again what differs there. */
const props = defineProps<{ pairing: string }>()
const { compare, again } = useSendingAgain(() => props.pairing)
</script>

<template>
  <div class="row again">
    <NButton size="small" :loading="compare.isPending.value" @click="compare.mutate()">{{
      $t('relay.relay.compare_with_the_gradebook')
    }}</NButton>
    <template v-if="compare.data.value">
      <span
        ><b>{{ compare.data.value.same }}</b> {{ $t('relay.relay.stand_there_as_they_should') }}
        <b>{{ compare.data.value.differ }}</b>
        {{
          $t('relay.relay.do_not', {
            read: compare.data.value.unread
              ? $t('relay.relay.could_not_be_read', { unread: compare.data.value.unread })
              : '',
          })
        }}<template v-if="compare.data.value.newer">
          {{
            $t('relay.relay.the_publisher_holds_that_it', {
              score: $t('count.newer_scores', compare.data.value.newer),
            })
          }}</template
        ><template v-if="compare.data.value.publisher_trouble">
          {{
            $t('relay.relay.the_publisher_could_not_be', {
              publisher_trouble: compare.data.value.publisher_trouble,
            })
          }}</template
        ></span
      >
      <NButton
        v-if="!compare.data.value.differ && compare.data.value.newer"
        size="small"
        type="primary"
        :loading="again.isPending.value"
        @click="again.mutate(false)"
        >{{
          $t('relay.relay.take_and_send', {
            score: $t('count.newer_scores', compare.data.value.newer),
          })
        }}</NButton
      >
      <NButton
        v-if="compare.data.value.differ"
        size="small"
        type="primary"
        :loading="again.isPending.value"
        @click="again.mutate(false)"
        >{{ $t('relay.relay.send_these_again', { differ: compare.data.value.differ }) }}</NButton
      >
      <NButton
        v-if="compare.data.value.differ"
        size="small"
        quaternary
        @click="again.mutate(true)"
        >{{ $t('relay.relay.send_all_by_force_over') }}</NButton
      >
    </template>
    <span v-else class="soft">{{ $t('relay.relay.says_how_many_differ_before') }}</span>
  </div>
  <ProblemNote :error="again.error.value ?? compare.error.value" />
</template>

<style scoped>
.again {
  margin: 0.8rem 0;
}
</style>
