<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import MoneyText from '../../components/MoneyText.vue'
import { usePrice } from './data'

const price = usePrice()
</script>

<template>
  <ts-page-header :title="price.plant">
    <template #actions>
      <ts-button look="solid" :href="`/prices/${price.id}/edit`">Edit</ts-button>
      <ts-button tone="bad" @press="remove">Remove</ts-button>
    </template>
  </ts-page-header>
  <ts-card title="Facts">
    <ts-tag :tone="price.state === 'current' ? 'good' : 'neutral'">{{ price.state }}</ts-tag>
    <ts-text muted>{{ price.since }}</ts-text>
    <MoneyText :pence="price.pence" muted />
  </ts-card>
  <ts-heading>History</ts-heading>
  <ts-card v-for="event in price.events" :key="event.id">
    <ts-text muted>{{ event.text }}</ts-text>
  </ts-card>
</template>
