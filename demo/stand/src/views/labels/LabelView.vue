<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import { useLabel } from './data'

const label = useLabel()
</script>

<template>
  <TsPageHeader :title="label.text">
    <template #actions>
      <TsButton look="solid" :href="`/labels/${label.id}/edit`">Edit</TsButton>
      <TsButton tone="bad" @press="remove">Remove</TsButton>
    </template>
  </TsPageHeader>
  <TsCard title="Facts">
    <TsTag :tone="label.state === 'printed' ? 'good' : 'neutral'">{{ label.state }}</TsTag>
    <TsText muted>{{ label.printed }}</TsText>
  </TsCard>
  <TsHeading>History</TsHeading>
  <TsCard v-for="event in label.events" :key="event.id">
    <TsText muted>{{ event.text }}</TsText>
  </TsCard>
</template>
