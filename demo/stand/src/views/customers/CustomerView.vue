<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import { useCustomer } from './data'

const customer = useCustomer()
</script>

<template>
  <ts-page-header :title="customer.name">
    <template #actions>
      <ts-button look="solid" :href="`/customers/${customer.id}/edit`">Edit</ts-button>
      <ts-button tone="bad" @press="remove">Remove</ts-button>
    </template>
  </ts-page-header>
  <ts-card title="Facts">
    <ts-tag :tone="customer.state === 'regular' ? 'good' : 'neutral'">{{ customer.state }}</ts-tag>
    <ts-text muted>{{ customer.email }}</ts-text>
  </ts-card>
  <ts-heading>History</ts-heading>
  <ts-card v-for="event in customer.events" :key="event.id">
    <ts-text muted>{{ event.text }}</ts-text>
  </ts-card>
</template>
