<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { changePlatformFields } from './fields'
import HandshakeList from './HandshakeList.vue'
import { t } from '@/words'
import { usePlatform } from './usePlatform'

const props = defineProps<{ platform: Schemas['Platform'] }>()
const { editing, check, change } = usePlatform(() => props.platform.id)
const state = computed(() =>
  !props.platform.active
    ? t('connect.platform_card.out_of_use')
    : props.platform.launched_at
      ? t('connect.platform_card.connected')
      : t('connect.platform_card.registered_never_launched'),
)
</script>

<template>
  <article class="sheet">
    <div class="row">
      <h3 class="right-ink">{{ platform.name }}</h3>
      <span class="soft"
        >{{ state }} · {{ platform.shells }}
        {{
          platform.shells === 1
            ? $t('connect.platform_card.shell')
            : $t('connect.platform_card.shells')
        }}</span
      >
    </div>
    <p class="soft address">
      {{
        $t('connect.platform_card.client_id', {
          issuer: platform.issuer,
          client_id: platform.client_id,
        })
      }}
    </p>
    <div v-for="deployment in platform.asked_deployments" :key="deployment" class="ask">
      <span
        >{{ $t('connect.platform_card.somebody_launched_from_deployment') }}
        <code>{{ deployment }}</code>{{
          $t('connect.platform_card.which_is_not_accepted_nothing')
        }}</span
      >
      <NButton
        size="small"
        :loading="change.isPending.value"
        @click="change.mutate({ deployment_ids: [...platform.deployment_ids, deployment] })"
        >{{ $t('connect.platform_card.it_is_ours_accept') }}</NButton
      >
    </div>
    <div class="row">
      <NButton
        size="small"
        type="primary"
        :loading="check.isPending.value"
        @click="check.mutate()"
        >{{ $t('connect.platform_card.check_the_connection') }}</NButton
      >
      <NButton size="small" @click="editing = !editing">{{
        editing ? $t('connect.platform_card.close') : $t('connect.platform_card.change')
      }}</NButton>
      <NButton size="small" @click="change.mutate({ active: !platform.active })">{{
        platform.active
          ? $t('connect.platform_card.take_out_of_use')
          : $t('connect.platform_card.use_again')
      }}</NButton>
    </div>
    <ProblemNote :error="check.error.value" />
    <HandshakeList v-if="check.data.value" :steps="check.data.value" />
    <FieldForm
      v-if="editing"
      :prefix="platform.id"
      :fields="changePlatformFields"
      :values="platform"
      :action="$t('connect.platform_card.save')"
      :busy="change.isPending.value"
      :error="change.error.value"
      @save="change.mutate($event)"
    />
  </article>
</template>

<style scoped>
article {
  margin-bottom: 0.8rem;
  border-left: 5px solid var(--right);
}
h3 {
  margin: 0;
  font-size: 1.05rem;
}
.address {
  overflow-wrap: anywhere;
  font-size: 0.9rem;
}
.ask {
  background: var(--alarm-wash);
  border-radius: 8px;
  padding: 0.5rem 0.8rem;
  margin-bottom: 0.6rem;
}
.ask code {
  overflow-wrap: anywhere;
}
form {
  margin-top: 0.8rem;
}
</style>
