<script setup lang="ts">
import { t } from '@/words'
import { useConfirm } from '@/parts/useConfirm'
import { NButton } from 'naive-ui/es/button'
import CopyValue from '@/parts/CopyValue.vue'
import FieldForm from '@/parts/FieldForm.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { collegeFields } from './fields'
import { useCollege } from './useCollege'

const { college, error, save, remove } = useCollege()
const confirm = useConfirm()
async function askToRemove() {
  const sure = await confirm({
    title: t('connect.college.remove_it'),
    content: t('connect.college.nobody_signs_in_there_any'),
    doIt: t('connect.college.remove_it'),
    danger: true,
  })
  if (sure) remove.mutate()
}
</script>

<template>
  <section aria-labelledby="college">
    <h2 id="college">{{ $t('connect.college.sign_in_at_your_college') }}</h2>
    <p class="soft">
      {{ $t('connect.college.people_without_a_shell_can') }}
    </p>
    <template v-if="college">
      <dl>
        <CopyValue
          :label="$t('connect.college.where_the_provider_sends_browsers')"
          :value="college.redirect_uri"
          :help="$t('connect.college.enter_this_where_you_register')"
        />
      </dl>
      <FieldForm
        :key="college.issuer"
        prefix="college"
        :fields="collegeFields"
        :values="college"
        :action="college.issuer ? $t('connect.college.save') : $t('connect.college.set_it_up')"
        :busy="save.isPending.value"
        :error="save.error.value"
        @save="save.mutate({ active: true, ...$event })"
      />
      <p v-if="save.isSuccess.value" role="status">
        {{ $t('connect.college.the_provider_answered_the_sign') }}
      </p>
      <NButton
        v-if="college.issuer"
        size="small"
        :loading="remove.isPending.value"
        @click="askToRemove"
        >{{ $t('connect.college.remove_it') }}</NButton
      >
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
