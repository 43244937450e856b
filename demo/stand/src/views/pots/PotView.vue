<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import { usePot } from './data'

const pot = usePot()
</script>

<template>
  <ts-page-header :title="pot.name">
    <template #actions>
      <ts-button look="solid" :href="`/pots/${pot.id}/edit`">Edit</ts-button>
      <ts-button tone="bad" @press="remove">Remove</ts-button>
    </template>
  </ts-page-header>
  <ts-card title="Facts">
    <ts-tag :tone="pot.state === 'there' ? 'good' : 'neutral'">{{ pot.state }}</ts-tag>
    <ts-text muted>{{ pot.size }}</ts-text>
  </ts-card>
  <ts-heading>History</ts-heading>
  <ts-card v-for="event in pot.events" :key="event.id">
    <ts-text muted>{{ event.text }}</ts-text>
  </ts-card>
</template>
