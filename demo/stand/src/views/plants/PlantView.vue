<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import { usePlant } from './data'

const plant = usePlant()
</script>

<template>
  <TsPageHeader :title="plant.name">
    <template #actions>
      <TsButton look="solid" :href="`/plants/${plant.id}/edit`">Edit</TsButton>
      <TsButton @press="remove">Remove</TsButton>
    </template>
  </TsPageHeader>
  <TsCard title="Facts">
    <TsTag :tone="plant.state === 'there' ? 'good' : 'neutral'">{{ plant.state }}</TsTag>
    <TsText muted>{{ plant.price }}</TsText>
  </TsCard>
  <TsHeading>History</TsHeading>
  <TsCard v-for="event in plant.events" :key="event.id">
    <TsText muted>{{ event.text }}</TsText>
  </TsCard>
</template>
