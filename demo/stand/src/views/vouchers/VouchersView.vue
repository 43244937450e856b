<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useVouchers } from './data'

const { vouchers, search } = useVouchers()
</script>

<template>
  <TsPageHeader title="Vouchers">
    <template #actions>
      <TsButton look="solid" href="/vouchers/new">Add a voucher</TsButton>
    </template>
  </TsPageHeader>
  <TsCard>
    <TsTextField v-model="search" kind="search" label="Search vouchers" />
  </TsCard>
  <table>
    <tr v-for="voucher in vouchers" :key="voucher.id">
      <td><TsLink :href="`/vouchers/${voucher.id}`" subtle>{{ voucher.code }}</TsLink></td>
      <td><TsTag :tone="voucher.state === 'used' ? 'good' : 'neutral'">{{ voucher.state }}</TsTag></td>
      <td><TsButton look="quiet" size="small" :href="`/vouchers/${voucher.id}/edit`">Edit</TsButton></td>
    </tr>
  </table>
</template>
