<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'

/** An account at one publisher: how far it is linked, and what one can do. */
defineProps<{ account: Schemas['Account']; busy: boolean }>()
defineEmits<{ link: []; look: []; confirm: []; undo: [] }>()
</script>

<template>
  <li class="sheet">
    <svg viewBox="0 0 84 48" width="84" height="48" aria-hidden="true" :class="account.state">
      <circle class="a" :cx="account.state === 'linked' ? 32 : 22" cy="24" r="18" />
      <circle class="b" :cx="account.state === 'linked' ? 52 : 62" cy="24" r="18" />
    </svg>
    <div class="words">
      <h2>{{ account.publisher_name }}</h2>
      <p v-if="account.state === 'linked'">
        <strong>{{ account.account }}</strong>
        <span class="soft"
          >{{ account.email }} · {{ account.courses }}
          {{
            account.courses === 1 ? $t('pair.accounts.course') : $t('pair.accounts.courses')
          }}</span
        >
      </p>
      <p v-else-if="account.state === 'pending'" class="warning" role="alert">
        {{ account.warning }}
      </p>
      <p v-else-if="account.state === 'begun'" class="soft">
        {{ $t('pair.accounts.begun_and_has_not_said', { publisher_name: account.publisher_name }) }}
      </p>
      <p v-else class="soft">{{ $t('pair.accounts.not_linked_yet') }}</p>
      <div class="row">
        <NButton
          v-if="account.state === 'pending'"
          size="small"
          type="primary"
          @click="$emit('confirm')"
          >{{ $t('pair.accounts.it_is_mine_confirm') }}</NButton
        >
        <NButton v-if="account.state === 'begun'" size="small" @click="$emit('look')">{{
          $t('pair.accounts.ask', { publisher_name: account.publisher_name })
        }}</NButton>
        <NButton
          v-if="account.state !== 'linked'"
          size="small"
          :type="account.state === 'pending' ? 'default' : 'primary'"
          :loading="busy"
          @click="$emit('link')"
          >{{
            account.state === 'none'
              ? $t('pair.accounts.link_my_account')
              : $t('pair.accounts.link_again')
          }}<span class="sr-only">
            {{ $t('pair.accounts.at', { publisher_name: account.publisher_name }) }}</span
          ></NButton
        >
        <NButton v-if="account.id" size="small" @click="$emit('undo')"
          >{{ $t('pair.accounts.undo')
          }}<span class="sr-only">
            {{
              $t('pair.accounts.the_link_with', { publisher_name: account.publisher_name })
            }}</span
          ></NButton
        >
      </div>
    </div>
  </li>
</template>

<style scoped>
li {
  display: flex;
  gap: 1.1rem;
  align-items: center;
}
h2 {
  margin: 0;
}
.words {
  flex: 1;
}
.words p {
  margin: 0.1rem 0 0.5rem;
}
.warning {
  color: var(--alarm);
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2;
  fill-opacity: 0.7;
}
svg.none circle,
svg.begun circle,
svg.pending circle {
  stroke-dasharray: 4 3;
  fill-opacity: 0.35;
}
@media (max-width: 640px) {
  svg {
    display: none;
  }
}
</style>
