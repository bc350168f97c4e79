<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import type { Schemas } from '@/api/client'
import ListTable from '@/parts/ListTable.vue'
import type { Column } from '@/parts/listTable'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useConfirm } from '@/parts/useConfirm'
import { t } from '@/words'
import { type Role, usePeople } from './usePeople'

const { people, error, change, block } = usePeople()
const roles: [Role, string][] = [
  ['teacher', t('connect.people_list.teaches_own_shells_only')],
  ['designer', t('connect.people_list.course_designer_sets_up_for')],
  ['administrator', t('connect.people_list.administrator_everything_here')],
]
type Person = Schemas['Person']
const columns: Column<Person>[] = [
  {
    key: 'name',
    title: t('connect.people_list.name'),
    text: (row) => row.name,
    by: (row) => row.name,
    heading: true,
  },
  {
    key: 'username',
    title: t('connect.people_list.signs_in_as'),
    text: (row) => row.username,
    by: (row) => row.username,
  },
  { key: 'role', title: t('connect.people_list.may'), by: (row) => row.role, minWidth: 240 },
  { key: 'access', title: t('connect.people_list.access') },
]
const confirm = useConfirm()
async function askToBlock({ id, name }: Person) {
  const sure = await confirm({
    title: t('connect.people_list.block_2', { name }),
    content: t('connect.people_list.sessions_tokens_open_invitations_and', { name }),
    doIt: t('connect.people_list.block'),
    danger: true,
  })
  if (sure) block.mutate({ id, blocked: true })
}
</script>

<template>
  <section aria-labelledby="people">
    <h2 id="people">{{ $t('connect.people_list.people') }}</h2>
    <p class="soft">
      {{ $t('connect.people_list.who_has_opened_venn_pair') }}
    </p>
    <ProblemNote :error="error" />
    <ListTable
      :label="$t('connect.people_list.people')"
      :columns="columns"
      :rows="people?.results ?? []"
      :row-key="(row) => String(row.id)"
    >
      <template #cell-role="{ row }">
        <ChooseOne
          :value="row.role"
          :label="$t('connect.people_list.what_may_do', { name: row.name })"
          :options="roles.map(([value, label]) => ({ value, label }))"
          @chosen="change.mutate({ id: row.id, role: $event as Role })"
        />
      </template>
      <template #cell-access="{ row }">
        <NButton
          v-if="!row.blocked"
          size="small"
          :aria-label="$t('connect.people_list.block_2', { name: row.name })"
          @click="askToBlock(row)"
          >{{ $t('connect.people_list.block') }}</NButton
        >
        <NButton
          v-else
          size="small"
          :aria-label="$t('connect.people_list.let_in_again', { name: row.name })"
          @click="block.mutate({ id: row.id, blocked: false })"
          >{{ $t('connect.people_list.let_in_again_2') }}</NButton
        >
      </template>
    </ListTable>
  </section>
</template>
