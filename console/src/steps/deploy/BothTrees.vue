<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import type { Destination } from '@/logic/outline'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import CatalogueTree from './CatalogueTree.vue'
import DestinationTree from './DestinationTree.vue'
import ItemPeek from './ItemPeek.vue'
import { useOutline } from './useOutline'

/** The homework course on the left, the shell on the right: what goes, and where it goes. */
const props = defineProps<{
  pairing: string
  items: Schemas['Item'][]
  changed: Set<string>
  plan?: Schemas['Plan']
  zone: string
  mayChange: boolean
}>()
const chosen = defineModel<string[]>('chosen', { required: true })
const place = defineModel<Destination>('place', { required: true })
const { outline, reading, ask } = useOutline(() => props.pairing)
const looked = ref<Schemas['Item']>()
/** Enter on the left leads to the right, where the same keys choose the place. */
const toOutline = () => document.querySelector<HTMLElement>('.right-tree [role=tree]')?.focus()
</script>

<template>
  <div class="trees">
    <section class="left-tree" aria-labelledby="from">
      <div class="row">
        <h2 id="from">
          <span class="left-ink">{{ $t('deploy.deploy.homework_course') }}</span>{{
            $t('deploy.deploy.choose_items')
          }}
        </h2>
        <NButton
          v-if="mayChange"
          class="push"
          size="small"
          :loading="ask.isPending.value"
          @click="ask.mutate()"
          >{{ $t('deploy.deploy.pick_at_the_publisher') }}</NButton
        >
      </div>
      <ProblemNote :error="ask.error.value" />
      <CatalogueTree
        v-model="chosen"
        :items="items"
        :changed="changed"
        :zone="zone"
        @look="looked = $event"
        @across="toOutline"
      />
      <ItemPeek v-if="looked" :item="looked" :zone="zone" />
    </section>
    <section class="right-tree" aria-labelledby="into">
      <h2 id="into">
        <span class="right-ink">{{ $t('deploy.deploy.shell') }}</span>{{
          $t('deploy.deploy.choose_where')
        }}
      </h2>
      <AfterReading :reading="reading" :what="$t('deploy.deploy.the_shells_outline')">
        <DestinationTree
          v-model="place"
          :outline="outline ?? []"
          :plan="plan"
          :chosen="chosen.length > 0"
          @leave="chosen = chosen.filter((each) => each !== $event)"
        />
      </AfterReading>
    </section>
  </div>
</template>

<style scoped>
.trees {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.4rem;
}
.left-tree,
.right-tree {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 12px;
  padding: 0.9rem 1rem;
}
.left-tree > .row {
  align-items: center;
  margin-bottom: 0.5rem;
}
.left-tree {
  border-top: 4px solid var(--left);
}
.right-tree {
  border-top: 4px solid var(--right);
  align-self: start;
}
@media (max-width: 800px) {
  .trees {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
