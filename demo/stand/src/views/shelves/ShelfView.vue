<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import { useShelf } from './data'

const shelf = useShelf()
</script>

<template>
  <TsPageHeader :title="shelf.name">
    <template #actions>
      <TsButton look="solid" :href="`/shelves/${shelf.id}/edit`">Edit</TsButton>
      <TsButton tone="bad" @press="remove">Remove</TsButton>
    </template>
  </TsPageHeader>
  <TsCard title="Facts">
    <TsTag :tone="shelf.state === 'full' ? 'good' : 'neutral'">{{ shelf.state }}</TsTag>
    <TsText muted>{{ shelf.place }}</TsText>
  </TsCard>
  <TsHeading :level="3">History</TsHeading>
  <TsCard v-for="event in shelf.events" :key="event.id">
    <TsText muted>{{ event.text }}</TsText>
  </TsCard>
</template>
