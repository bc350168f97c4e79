<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { useQuery } from '@tanstack/vue-query'
import { dateOf } from '@/logic/dates'
import AfterReading from '@/parts/AfterReading.vue'
import CollegePanel from './CollegePanel.vue'
import HealthPanel from './HealthPanel.vue'
import NewPlatform from './NewPlatform.vue'
import NewPublisher from './NewPublisher.vue'
import PeopleList from './PeopleList.vue'
import PlatformCard from './PlatformCard.vue'
import PublisherCard from './PublisherCard.vue'
import { keysQuery, platformsQuery, publishersQuery } from './queries'

const { data: platforms, ...readingPlatforms } = useQuery(platformsQuery())
const { data: publishers, ...readingPublishers } = useQuery(publishersQuery())
const { data: keys } = useQuery(keysQuery())
</script>

<template>
  <div class="page">
    <h1>{{ $t('connect.connections.connections') }}</h1>
    <p class="soft">
      {{ $t('connect.connections.venn_pair_stands_between_the') }}
    </p>
    <div class="sides">
      <section aria-labelledby="publishers">
        <h2 id="publishers">
          <svg viewBox="0 0 24 24" width="20" height="20" aria-hidden="true">
            <circle class="a" cx="12" cy="12" r="10" />
          </svg>
          {{ $t('connect.connections.publishers') }}
        </h2>
        <AfterReading
          :reading="readingPublishers"
          :what="$t('connect.connections.the_connections')"
          :none="!publishers?.results.length && $t('connect.connections.no_publisher_yet')"
          :none-means="$t('connect.connections.connect_the_first_one_below')"
        >
          <PublisherCard v-for="each in publishers?.results" :key="each.id" :publisher="each" />
        </AfterReading>
        <NewPublisher />
      </section>
      <section aria-labelledby="platforms">
        <h2 id="platforms">
          <svg viewBox="0 0 24 24" width="20" height="20" aria-hidden="true">
            <circle class="b" cx="12" cy="12" r="10" />
          </svg>
          {{ $t('connect.connections.course_platforms') }}
        </h2>
        <AfterReading
          :reading="readingPlatforms"
          :what="$t('connect.connections.the_connections')"
          :none="!platforms?.results.length && $t('connect.connections.no_platform_yet')"
          :none-means="$t('connect.connections.connect_the_first_one_below')"
        >
          <PlatformCard v-for="each in platforms?.results" :key="each.id" :platform="each" />
        </AfterReading>
        <NewPlatform />
      </section>
    </div>
    <HealthPanel />
    <section aria-labelledby="keys" class="below">
      <h2 id="keys">{{ $t('connect.connections.our_keys') }}</h2>
      <p class="soft">
        {{ $t('connect.connections.they_change_every_ninety_days') }}
      </p>
      <NTable :bordered="false" class="plain stack">
        <thead>
          <tr>
            <th scope="col">{{ $t('connect.connections.key_id') }}</th>
            <th scope="col">{{ $t('connect.connections.signs_from') }}</th>
            <th scope="col">{{ $t('connect.connections.published_until') }}</th>
            <th scope="col">{{ $t('connect.connections.state') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="key in keys" :key="key.kid">
            <td class="wide">
              <code>{{ key.kid }}</code>
            </td>
            <td :data-label="$t('connect.connections.signs_from')">{{ dateOf(key.signs_from) }}</td>
            <td :data-label="$t('connect.connections.published_until')">
              {{ dateOf(key.ends_at) || $t('connect.connections.open') }}
            </td>
            <td :data-label="$t('connect.connections.state')">
              {{
                key.signs
                  ? $t('connect.connections.in_use')
                  : new Date(key.signs_from) > new Date()
                    ? $t('connect.connections.waits')
                    : $t('connect.connections.still_published')
              }}
            </td>
          </tr>
        </tbody>
      </NTable>
    </section>
    <CollegePanel class="below" />
    <PeopleList class="below" />
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1.4rem;
  align-items: start;
}
h2 {
  display: flex;
  gap: 0.5rem;
  align-items: center;
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
}
.below {
  margin-top: 2rem;
}
.below p {
  margin-top: 0.6rem;
}
code {
  overflow-wrap: anywhere;
  font-size: 0.85rem;
}
@media (max-width: 900px) {
  .sides {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
