<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { answered, api } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { accountsQuery } from './queries'

const client = useQueryClient()
const { data: accounts, error, isPending } = useQuery(accountsQuery())
const again = () => {
  client.invalidateQueries({ queryKey: ['accounts'] })
  client.invalidateQueries({ queryKey: ['courses'] })
}
const link = useMutation({
  mutationFn: (publisher: string) =>
    answered(api.POST('/api/v1/accounts', { body: { publisher } })),
  onSuccess: (begun) => window.location.assign(begun.open),
})
const look = useMutation({
  mutationFn: (id: string) =>
    answered(api.POST('/api/v1/accounts/{id}/look', { params: { path: { id } } })),
  onSuccess: again,
})
const confirm = useMutation({
  mutationFn: (id: string) =>
    answered(api.POST('/api/v1/accounts/{id}/confirm', { params: { path: { id } } })),
  onSuccess: again,
})
const undo = useMutation({
  mutationFn: (id: string) =>
    answered(api.DELETE('/api/v1/accounts/{id}', { params: { path: { id } } })),
  onSuccess: again,
})
</script>

<template>
  <div class="page narrow">
    <h1>{{ $t('pair.accounts.your_accounts_at_the_publishers') }}</h1>
    <p class="soft">
      {{ $t('pair.accounts.linked_once_for_you_alone') }}
    </p>
    <LoadingNote v-if="isPending" :what="$t('pair.accounts.your_accounts')" />
    <ProblemNote v-else-if="error" :error="error" />
    <EmptyNote v-else-if="!accounts?.length" :title="$t('pair.accounts.no_publisher_is_connected')"
      ><p>{{ $t('pair.accounts.your_administrator_connects_them_und') }}</p></EmptyNote
    >
    <ul v-else>
      <li v-for="each in accounts" :key="each.publisher" class="sheet">
        <svg viewBox="0 0 84 48" width="84" height="48" aria-hidden="true" :class="each.state">
          <circle class="a" :cx="each.state === 'linked' ? 32 : 22" cy="24" r="18" />
          <circle class="b" :cx="each.state === 'linked' ? 52 : 62" cy="24" r="18" />
        </svg>
        <div class="words">
          <h2>{{ each.publisher_name }}</h2>
          <p v-if="each.state === 'linked'">
            <strong>{{ each.account }}</strong>
            <span class="soft"
              >{{ each.email }} · {{ each.courses }}
              {{
                each.courses === 1 ? $t('pair.accounts.course') : $t('pair.accounts.courses')
              }}</span
            >
          </p>
          <p v-else-if="each.state === 'pending'" class="warning" role="alert">
            {{ each.warning }}
          </p>
          <p v-else-if="each.state === 'begun'" class="soft">
            {{
              $t('pair.accounts.begun_and_has_not_said', { publisher_name: each.publisher_name })
            }}
          </p>
          <p v-else class="soft">{{ $t('pair.accounts.not_linked_yet') }}</p>
          <div class="row">
            <NButton
              v-if="each.state === 'pending'"
              size="small"
              type="primary"
              @click="confirm.mutate(each.id!)"
              >{{ $t('pair.accounts.it_is_mine_confirm') }}</NButton
            >
            <NButton v-if="each.state === 'begun'" size="small" @click="look.mutate(each.id!)">{{
              $t('pair.accounts.ask', { publisher_name: each.publisher_name })
            }}</NButton>
            <NButton
              v-if="each.state !== 'linked'"
              size="small"
              :type="each.state === 'pending' ? 'default' : 'primary'"
              :loading="link.isPending.value"
              @click="link.mutate(each.publisher)"
              >{{
                each.state === 'none'
                  ? $t('pair.accounts.link_my_account')
                  : $t('pair.accounts.link_again')
              }}<span class="sr-only">
                {{ $t('pair.accounts.at', { publisher_name: each.publisher_name }) }}</span
              ></NButton
            >
            <NButton v-if="each.id" size="small" @click="undo.mutate(each.id)"
              >{{ $t('pair.accounts.undo')
              }}<span class="sr-only">
                {{
                  $t('pair.accounts.the_link_with', { publisher_name: each.publisher_name })
                }}</span
              ></NButton
            >
          </div>
        </div>
      </li>
    </ul>
    <ProblemNote
      :error="link.error.value ?? look.error.value ?? confirm.error.value ?? undo.error.value"
    />
  </div>
</template>

<style scoped>
.narrow {
  max-width: 46rem;
}
ul {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 0.7rem;
}
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
