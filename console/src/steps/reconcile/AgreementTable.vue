<script setup lang="ts">
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { loudestFirst } from '@/logic/kinds'
import KindTag from '@/parts/KindTag.vue'
import ListTable from '@/parts/ListTable.vue'
import { t } from '@/words'
import AgreementBar from './AgreementBar.vue'
import { agreementColumns } from './agreementColumns'
import { days, share } from './useAgreement'

defineProps<{ rows: Schemas['Agreement'][] }>()
const STANDING: Record<string, string> = {
  waiting: t('reconcile.agreement.waits_for_its_turn'),
  comparing: t('reconcile.agreement.comparing_now'),
  never: t('reconcile.agreement.not_compared_yet'),
}
const columns = agreementColumns()
</script>

<template>
  <ListTable
    :label="$t('reconcile.agreement.all_pairings')"
    :columns="columns"
    :rows="rows"
    :row-key="(row) => row.pairing"
  >
    <template #cell-shell="{ row }">
      <RouterLink :to="{ name: 'reconcile', params: { pairing: row.pairing } }">{{
        row.shell
      }}</RouterLink>
      <div class="soft small">
        {{ row.course
        }}<template v-if="row.teachers.length"> · {{ row.teachers.join(', ') }}</template>
      </div>
    </template>
    <template #cell-agreement="{ row }">
      <AgreementBar :agree="row.agree" :cells="row.cells" :share="share(row)" />
    </template>
    <template #cell-causes="{ row }">
      <span class="row tags"
        ><RouterLink
          v-for="[kind, count] in loudestFirst(row.open)"
          :key="kind"
          :to="{ name: 'reconcile', params: { pairing: row.pairing }, query: { kind } }"
          ><KindTag :code="kind" :count="count" /></RouterLink
      ></span>
    </template>
    <template #cell-compared="{ row }">
      <span v-if="row.trouble" class="trouble">{{ row.trouble }}</span><span v-else class="soft">{{
        STANDING[row.standing] ??
        (days(row.at) === 0
          ? $t('reconcile.agreement.today')
          : $t('reconcile.agreement.days_ago', { at: days(row.at) }))
      }}</span>
    </template>
  </ListTable>
</template>

<style scoped>
.small {
  font-size: 0.86rem;
}
.tags {
  gap: 0.3rem;
}
.tags a {
  text-decoration: none;
}
.trouble {
  color: var(--alarm);
}
</style>
