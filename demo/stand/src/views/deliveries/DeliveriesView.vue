<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useDeliveries } from './data'

const { deliveries, search } = useDeliveries()
</script>

<template>
  <TsPageHeader title="Deliveries">
    <template #actions>
      <TsButton look="solid" href="/deliveries/new">New delivery</TsButton>
    </template>
  </TsPageHeader>
  <TsCard>
    <TsTextField v-model="search" kind="search" label="Search deliveries" />
  </TsCard>
  <table>
    <tr v-for="delivery in deliveries" :key="delivery.id">
      <td><TsLink :href="`/deliveries/${delivery.id}`" subtle>{{ delivery.number }}</TsLink></td>
      <td><TsTag :tone="delivery.state === 'arrived' ? 'good' : 'neutral'">{{ delivery.state }}</TsTag></td>
      <td><TsButton look="quiet" size="small" :href="`/deliveries/${delivery.id}/edit`">Edit</TsButton></td>
    </tr>
  </table>
</template>
