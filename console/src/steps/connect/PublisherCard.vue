<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { keyFields, launchFields, onerosterFields, publisherName } from './fields'
import HandshakeList from './HandshakeList.vue'
import { t } from '@/words'
import { usePublisher } from './usePublisher'

const props = defineProps<{ publisher: Schemas['Publisher'] }>()
const { open, check, change } = usePublisher(() => props.publisher.id)
const fields = computed(() => [
  publisherName,
  ...(props.publisher.speaks === 'lti11' ? keyFields : launchFields),
  ...onerosterFields,
])
const state = computed(() => {
  if (!props.publisher.active) return t('connect.publisher_card.out_of_use')
  if (!props.publisher.can_launch) return t('connect.publisher_card.waits_for_its_values')
  return props.publisher.has_oneroster_secret
    ? t('connect.publisher_card.connected')
    : t('connect.publisher_card.launches_oneroster_access_is_missing')
})
const labels: Record<string, string> = {
  issuer: t('connect.publisher_card.issuer'),
  client_id: t('connect.publisher_card.client_id'),
  deployment_id: t('connect.publisher_card.deployment_id'),
  authorization_url: t('connect.publisher_card.authorisation_address'),
  token_url: t('connect.publisher_card.token_address'),
  jwks_url: t('connect.publisher_card.key_set_address'),
}
</script>

<template>
  <article class="sheet">
    <div class="row">
      <h3 class="left-ink">{{ publisher.name }}</h3>
      <span class="soft">{{
        $t('connect.publisher_card.courses', {
          state,
          courses: publisher.courses,
          lti:
            publisher.speaks === 'lti11'
              ? $t('connect.publisher_card.lti_1_1_key_and')
              : $t('connect.publisher_card.lti_1_3'),
        })
      }}</span>
    </div>
    <p class="soft address">
      {{ publisher.launch_url || $t('connect.publisher_card.give_it_our_values_below')
      }}<template v-if="publisher.features.length">
        {{
          $t('connect.publisher_card.lets_us', { features: publisher.features.join(', ') })
        }}</template
      >
    </p>
    <div class="row">
      <NButton
        size="small"
        type="primary"
        :loading="check.isPending.value"
        @click="check.mutate()"
        >{{ $t('connect.publisher_card.check_the_connection') }}</NButton
      >
      <NButton size="small" @click="open = open === 'change' ? '' : 'change'">{{
        open === 'change'
          ? $t('connect.publisher_card.close')
          : $t('connect.publisher_card.enter_its_values')
      }}</NButton>
      <NButton
        v-if="publisher.speaks === 'lti13'"
        size="small"
        @click="open = open === 'card' ? '' : 'card'"
        >{{
          open === 'card'
            ? $t('connect.publisher_card.close')
            : $t('connect.publisher_card.our_values_for_it')
        }}</NButton
      >
      <NButton size="small" @click="change.mutate({ active: !publisher.active })">{{
        publisher.active
          ? $t('connect.publisher_card.take_out_of_use')
          : $t('connect.publisher_card.use_again')
      }}</NButton>
    </div>
    <ProblemNote :error="check.error.value" />
    <HandshakeList v-if="check.data.value" :steps="check.data.value" />
    <dl v-if="open === 'card'">
      <CopyValue
        v-for="(value, name) in publisher.card"
        :key="name"
        :label="labels[name] ?? String(name)"
        :value="String(value)"
      />
    </dl>
    <FieldForm
      v-if="open === 'change'"
      :prefix="publisher.id"
      :fields="fields"
      :values="publisher"
      :action="$t('connect.publisher_card.save')"
      :busy="change.isPending.value"
      :error="change.error.value"
      @save="change.mutate($event)"
    />
  </article>
</template>

<style scoped>
article {
  margin-bottom: 0.8rem;
  border-left: 5px solid var(--left);
}
h3 {
  margin: 0;
  font-size: 1.05rem;
}
.address {
  overflow-wrap: anywhere;
  font-size: 0.9rem;
}
form {
  margin-top: 0.8rem;
}
</style>
