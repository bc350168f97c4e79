<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NPopconfirm } from 'naive-ui/es/popconfirm'
import { answered, api, type Schemas } from '@/api/client'
import CopyValue from '@/parts/CopyValue.vue'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { collegeFields } from './fields'
import { collegeQuery } from './queries'

const client = useQueryClient()
const { data: college, error } = useQuery(collegeQuery())
const again = () => client.invalidateQueries({ queryKey: ['college-sign-in'] })
const save = useMutation({
  mutationFn: (body: Schemas['SetCollegeSignInRequest']) =>
    answered(api.PUT('/api/v1/connections/college-sign-in', { body })),
  onSuccess: again,
})
const remove = useMutation({
  mutationFn: () => answered(api.DELETE('/api/v1/connections/college-sign-in')),
  onSuccess: again,
})
</script>

<template>
  <section aria-labelledby="college">
    <h2 id="college">Sign-in at your college</h2>
    <p class="soft">
      People without a shell can sign in at your college's own provider (OpenID Connect). Somebody
      new may do nothing until you give them a role below.
    </p>
    <template v-if="college">
      <dl>
        <CopyValue
          label="Where the provider sends browsers back to"
          :value="college.redirect_uri"
          help="Enter this where you register Venn Pair as a client of your provider."
        />
      </dl>
      <FieldForm
        :key="college.issuer"
        prefix="college"
        :fields="collegeFields"
        :values="college as unknown as Record<string, unknown>"
        :action="college.issuer ? 'Save' : 'Set it up'"
        :busy="save.isPending.value"
        :error="save.error.value"
        @save="save.mutate({ active: true, ...$event } as never)"
      />
      <p v-if="save.isSuccess.value" role="status">
        The provider answered. The sign-in page offers it now.
      </p>
      <NPopconfirm
        v-if="college.issuer"
        positive-text="Remove it"
        negative-text="Keep it"
        @positive-click="remove.mutate()"
      >
        <template #trigger>
          <NButton size="small" :loading="remove.isPending.value">Remove it</NButton>
        </template>
        Nobody signs in there any more. Sessions that are open stay open until they end.
      </NPopconfirm>
    </template>
    <ProblemNote :error="error ?? remove.error.value" />
  </section>
</template>

<style scoped>
dl {
  margin: 0 0 0.7rem;
}
section > .n-button {
  margin-top: 0.7rem;
}
</style>
