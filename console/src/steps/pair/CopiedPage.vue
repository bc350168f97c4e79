<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from './ConsentPanel.vue'
import { t } from '@/words'
import { usePointing } from './usePointing'

const props = defineProps<{ shell: string }>()
const id = toRef(props, 'shell')
const { about, consent, found, reading, go } = usePointing(id)
const titles = {
  same: t('pair.copied.same_homework_course'),
  fresh: t('pair.copied.a_fresh_copy_of_it'),
}
</script>

<template>
  <div class="page">
    <h1 v-if="!found?.copied" class="sr-only">{{ $t('crumb.copied') }}</h1>
    <AfterReading
      :reading="reading"
      :what="$t('pair.copied.where_this_shell_came_from')"
      :none="!found?.copied && $t('pair.copied.this_shell_was_not_copied')"
      ><template #none
        ><p>
          <RouterLink :to="{ name: 'choose-course', params: { shell: id } }">{{
            $t('pair.copied.choose_its_homework_course')
          }}</RouterLink>.
        </p></template
      >
      <template v-if="found">
        <h1>
          {{
            $t('pair.copied.is_a_copy_of', {
              shell: about?.label ?? $t('pair.copied.this_shell'),
              shell2: found.shell,
            })
          }}
        </h1>
        <div class="figure" aria-hidden="true">
          <svg viewBox="0 0 420 110" width="420" height="110">
            <circle class="a" cx="70" cy="55" r="42" />
            <circle class="b" cx="120" cy="55" r="42" />
            <path d="M178 55 H252 M240 45 L252 55 L240 65" />
            <circle class="b" cx="352" cy="55" r="42" />
            <circle class="a ghost" cx="302" cy="55" r="42" />
          </svg>
        </div>
        <p>
          {{
            $t('pair.copied.venn_pair_placed_in_those', {
              link: $t('count.homework_links', found.links),
              shell: found.shell,
              course: found.course,
            })
          }}
        </p>
        <ConsentPanel v-if="consent && !consent.agreed" :shell="id" />
        <div class="ways">
          <section
            v-for="way in found.ways"
            :key="way.choice"
            class="sheet"
            :class="{ shut: !way.open }"
          >
            <h2>{{ titles[way.choice] }}</h2>
            <p>{{ way.why }}</p>
            <NButton
              v-if="way.open"
              type="primary"
              :loading="go.isPending.value && go.variables.value === way.choice"
              @click="go.mutate(way.choice)"
              >{{
                consent && !consent.agreed
                  ? $t('pair.copied.i_agree_point_the_links')
                  : $t('pair.copied.point_the_links_there')
              }}<span class="sr-only"> ({{ titles[way.choice] }})</span></NButton
            >
            <RouterLink v-else-if="way.needs === 'account'" :to="{ name: 'accounts' }">{{
              $t('pair.copied.link_my_account')
            }}</RouterLink>
          </section>
        </div>
        <ProblemNote :error="go.error.value" />
        <p class="soft">
          {{ $t('pair.copied.neither') }}
          <RouterLink :to="{ name: 'choose-course', params: { shell: id } }">{{
            $t('pair.copied.choose_another_homework_course')
          }}</RouterLink>{{ $t('pair.copied.links_whose_items_are_found') }}
        </p>
      </template>
    </AfterReading>
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
  margin: 1rem 0;
}
.shut {
  opacity: 1;
  border-style: dashed;
}
.shut p {
  color: var(--soft);
}
.figure svg {
  max-width: 100%;
  height: auto;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2.5;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2.5;
  fill-opacity: 0.7;
}
.ghost {
  stroke-dasharray: 6 5;
  fill-opacity: 0.3;
}
path {
  fill: none;
  stroke: var(--both);
  stroke-width: 3;
}
@media (max-width: 640px) {
  .ways {
    grid-template-columns: 1fr;
  }
}
</style>
