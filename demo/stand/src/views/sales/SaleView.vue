<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import MoneyText from '../../components/MoneyText.vue'
import { useSale } from './data'

const sale = useSale()
</script>

<template>
  <ts-page-header :title="sale.number">
    <template #actions>
      <ts-button look="solid" :href="`/sales/${sale.id}/edit`">Edit</ts-button>
      <ts-button tone="bad" @press="remove">Remove</ts-button>
    </template>
  </ts-page-header>
  <ts-card title="Facts">
    <ts-tag :tone="sale.state === 'paid' ? 'good' : 'neutral'">{{ sale.state }}</ts-tag>
    <ts-text muted>{{ sale.sold }}</ts-text>
    <MoneyText :pence="sale.total" muted />
  </ts-card>
  <ts-heading>History</ts-heading>
  <ts-card v-for="event in sale.events" :key="event.id">
    <ts-text muted>{{ event.text }}</ts-text>
  </ts-card>
</template>
