<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import AccountRow from './AccountRow.vue'
import { useAccounts } from './useAccounts'

const { accounts, reading, link, look, confirm, undo } = useAccounts()
</script>

<template>
  <div class="page narrow">
    <h1>{{ $t('pair.accounts.your_accounts_at_the_publishers') }}</h1>
    <p class="soft">
      {{ $t('pair.accounts.linked_once_for_you_alone') }}
    </p>
    <AfterReading
      :reading="reading"
      :what="$t('pair.accounts.your_accounts')"
      :none="!accounts?.length && $t('pair.accounts.no_publisher_is_connected')"
      :none-means="$t('pair.accounts.your_administrator_connects_them_und')"
    >
      <ul>
        <AccountRow
          v-for="each in accounts"
          :key="each.publisher"
          :account="each"
          :busy="link.isPending.value"
          @link="link.mutate(each.publisher)"
          @look="look.mutate(each.id!)"
          @confirm="confirm.mutate(each.id!)"
          @undo="undo.mutate(each.id!)"
        />
      </ul>
    </AfterReading>
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
</style>
