<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NPopconfirm } from 'naive-ui/es/popconfirm'
import { answered, api, type Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { peopleQuery } from './queries'

type Role = NonNullable<Schemas['PatchedChangePersonRequest']['role']>
const client = useQueryClient()
const { data, error } = useQuery(peopleQuery())
const change = useMutation({
  mutationFn: ({ id, role }: { id: number; role: Role }) =>
    answered(api.PATCH('/api/v1/people/{id}', { params: { path: { id } }, body: { role } })),
  onSettled: () => client.invalidateQueries({ queryKey: ['people'] }),
})
const block = useMutation({
  mutationFn: ({ id, blocked }: { id: number; blocked: boolean }) =>
    answered(api.PATCH('/api/v1/people/{id}', { params: { path: { id } }, body: { blocked } })),
  onSettled: () => client.invalidateQueries({ queryKey: ['people'] }),
})
const roles: [Role, string][] = [
  ['teacher', 'teaches: own shells only'],
  ['designer', 'course designer: sets up for others'],
  ['administrator', 'administrator: everything here'],
]
</script>

<template>
  <section aria-labelledby="people">
    <h2 id="people">People</h2>
    <p class="soft">
      Who has opened Venn Pair from a shell. Instructor and assistant of a shell come from the
      platform; here you say who may do more.
    </p>
    <ProblemNote :error="error ?? change.error.value ?? block.error.value" />
    <table class="plain stack">
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Signs in as</th>
          <th scope="col">May</th>
          <th scope="col">Access</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="person in data?.results" :key="person.id">
          <td class="wide">{{ person.name }}</td>
          <td data-label="Signs in as">{{ person.username }}</td>
          <td data-label="May">
            <select
              :aria-label="`What ${person.name} may do`"
              :value="person.role"
              @change="
                change.mutate({
                  id: person.id,
                  role: ($event.target as HTMLSelectElement).value as Role,
                })
              "
            >
              <option v-for="[role, words] in roles" :key="role" :value="role">{{ words }}</option>
            </select>
          </td>
          <td data-label="Access">
            <NPopconfirm
              v-if="!person.blocked"
              positive-text="Block"
              negative-text="Leave it"
              @positive-click="block.mutate({ id: person.id, blocked: true })"
            >
              <template #trigger>
                <NButton size="small" :aria-label="`Block ${person.name}`">Block</NButton>
              </template>
              Sessions, tokens, open invitations and account links of {{ person.name }} end at once,
              and no launch lets them in. What they did stays on record.
            </NPopconfirm>
            <NButton
              v-else
              size="small"
              :aria-label="`Let ${person.name} in again`"
              @click="block.mutate({ id: person.id, blocked: false })"
              >Let in again</NButton
            >
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
