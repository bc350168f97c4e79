<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, reactive, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api, shaped } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { usePlan } from '@/parts/usePlan'
import { itemsQuery } from '@/steps/content/queries'
import { pairingQuery } from '@/steps/pair/queries'
import CatalogueTree from './CatalogueTree.vue'
import HowPanel from './HowPanel.vue'
import ItemTable from './ItemTable.vue'
import { HOW, type How, sheetOf } from './sheet'
import { type Wishes, wishesOf } from './wishes'
import { t } from '@/words'

const props = defineProps<{ picking: string }>()
const {
  data: asked,
  error,
  isPending,
} = useQuery({
  queryKey: ['picking', props.picking],
  queryFn: () =>
    answered(api.GET('/api/v1/pickings/{id}', { params: { path: { id: props.picking } } })),
})
const pairing = computed(() => asked.value?.pairing ?? '')
const { data: about } = useQuery(
  computed(() => ({ ...pairingQuery(pairing.value), enabled: pairing.value !== '' })),
)
const items = useInfiniteQuery(
  computed(() => ({ ...itemsQuery(pairing.value, {}), enabled: pairing.value !== '' })),
)
watch(
  () => items.hasNextPage.value && !items.isFetchingNextPage.value,
  (more) => more && items.fetchNextPage(),
)
const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
const chosen = ref<string[]>([])
const how = reactive<How>({ ...HOW })
const wishes = ref<Wishes>({})
const body = computed(() => ({
  items: chosen.value,
  ...sheetOf(how),
  wishes: wishesOf(wishes.value, chosen.value),
}))
const send = (wanted: typeof body.value, dry_run: boolean) =>
  answered(
    api.POST('/api/v1/pickings/{id}/answer', {
      params: { path: { id: props.picking } },
      body: { ...wanted, dry_run },
    }),
  )
const { plan, error: hindered } = usePlan(
  computed(() => (chosen.value.length ? body.value : undefined)),
  async (wanted) => shaped(await send(wanted, true), 'rows'),
)
/** Post the signed answer to the platform, from this window: its dialogue closes by itself. */
const give = useMutation({
  mutationFn: async () => shaped(await send(body.value, false), 'token'),
  onSuccess: ({ url, token }) => {
    const form = Object.assign(document.createElement('form'), { method: 'post', action: url })
    form.append(
      Object.assign(document.createElement('input'), { type: 'hidden', name: 'JWT', value: token }),
    )
    document.body.append(form)
    form.submit()
  },
})
const made = computed(() => plan.value?.rows.filter((row) => row.action === 'make') ?? [])
const sentence = computed(() => {
  if (!chosen.value.length)
    return asked.value?.multiple
      ? t('deploy.pick.choose_what_the_course_should')
      : t('deploy.pick.choose_one_item_the_platform')
  if (!plan.value) return t('deploy.pick.working_out_what_will_happen')
  return t('deploy.pick.will_give_to', {
    link: t('count.links', made.value.length),
    course: asked.value?.shell || t('deploy.pick.the_course'),
    here: asked.value?.columns
      ? t('deploy.pick.with_a_column', { columns: plan.value.columns })
      : t('deploy.pick.without_columns_the_platform_takes'),
  })
})
</script>

<template>
  <div class="page">
    <h1>
      {{
        $t('deploy.pick.add_homework_to', { course: asked?.shell || $t('deploy.pick.the_course') })
      }}
    </h1>
    <LoadingNote
      v-if="isPending || (pairing && items.isPending.value)"
      :what="$t('deploy.pick.the_homework_course')"
    />
    <ProblemNote v-else-if="error ?? items.error.value" :error="(error ?? items.error.value)!" />
    <EmptyNote v-else-if="!pairing" :title="$t('deploy.pick.this_shell_is_not_paired')"
      ><p>
        <RouterLink :to="{ name: 'shells' }">{{
          $t('deploy.pick.pair_it_with_a_homework')
        }}</RouterLink>{{ $t('deploy.pick.then_begin_again_in', { platform: asked?.platform }) }}
      </p></EmptyNote
    >
    <template v-else>
      <p class="soft">
        {{ $t('deploy.pick.asks_for_content_nothing_is', { platform: asked?.platform }) }}
      </p>
      <section class="sheet">
        <CatalogueTree
          v-model="chosen"
          :items="rows"
          :changed="new Set()"
          :zone="about?.shell.timezone ?? 'UTC'"
          :single="!asked?.multiple"
        />
      </section>
      <section class="sheet"><HowPanel v-model="how" :categories="[]" picking /></section>
      <MoreBelow v-if="chosen.length" sheet :title="$t('deploy.pick.item_by_item')">
        <ItemTable
          v-model="wishes"
          :items="rows"
          :chosen="chosen"
          :rows="plan?.rows"
          :notices="plan?.notices"
          :categories="[]"
          :zone="about?.shell.timezone ?? 'UTC'"
        />
      </MoreBelow>
      <div class="bar" role="region" :aria-label="$t('deploy.pick.what_will_happen')">
        <ProblemNote :error="give.error.value ?? hindered" />
        <p v-for="(notice, index) in plan?.notices ?? []" :key="index" class="soft">
          {{ notice.message }} {{ notice.remedy }}
        </p>
        <div class="row">
          <p class="sentence" aria-live="polite">{{ sentence }}</p>
          <NButton
            type="primary"
            :disabled="!made.length"
            :loading="give.isPending.value"
            @click="give.mutate()"
            >{{ $t('deploy.pick.add') }}</NButton
          >
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.sheet {
  margin-bottom: 0.9rem;
}
.bar {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-top: 4px solid var(--both);
  border-radius: 12px 12px 0 0;
  padding: 0.7rem 1.1rem;
}
.sentence {
  margin: 0;
  font-weight: 600;
  flex: 1;
}
</style>
