<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import { useDelivery } from './data'

const delivery = useDelivery()
</script>

<template>
  <TsPageHeader :title="delivery.number">
    <template #actions>
      <TsButton look="solid" :href="`/deliveries/${delivery.id}/edit`">Edit</TsButton>
      <TsButton tone="bad" @press="remove">Remove</TsButton>
    </template>
  </TsPageHeader>
  <TsCard title="Facts">
    <TsTag :tone="delivery.state === 'arrived' ? 'good' : 'neutral'">{{ delivery.state }}</TsTag>
    <TsText muted>{{ delivery.expected }}</TsText>
  </TsCard>
  <TsHeading>History</TsHeading>
  <TsCard v-for="event in delivery.events" :key="event.id">
    <TsText muted>{{ event.text }}</TsText>
  </TsCard>
</template>
