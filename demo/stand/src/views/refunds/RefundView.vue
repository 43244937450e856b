<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import MoneyText from '../../components/MoneyText.vue'
import { useRefund } from './data'

const refund = useRefund()
</script>

<template>
  <ts-page-header :title="refund.sale">
    <template #actions>
      <ts-button look="solid" :href="`/refunds/${refund.id}/edit`">Edit</ts-button>
      <ts-button tone="bad" @press="remove">Remove</ts-button>
    </template>
  </ts-page-header>
  <ts-card title="Facts">
    <ts-tag :tone="refund.state === 'made' ? 'good' : 'neutral'">{{ refund.state }}</ts-tag>
    <ts-text muted>{{ refund.made }}</ts-text>
    <MoneyText :pence="refund.total" muted />
  </ts-card>
  <ts-heading>History</ts-heading>
  <ts-card v-for="event in refund.events" :key="event.id">
    <ts-text muted>{{ event.text }}</ts-text>
  </ts-card>
</template>
