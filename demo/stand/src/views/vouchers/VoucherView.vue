<script setup lang="ts">
import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'
import MoneyText from '../../components/MoneyText.vue'
import { useVoucher } from './data'

const voucher = useVoucher()
</script>

<template>
  <TsPageHeader :title="voucher.code">
    <template #actions>
      <TsButton look="solid" :href="`/vouchers/${voucher.id}/edit`">Edit</TsButton>
      <TsButton tone="bad" @press="remove">Remove</TsButton>
    </template>
  </TsPageHeader>
  <TsCard title="Facts">
    <TsTag :tone="voucher.state === 'used' ? 'good' : 'neutral'">{{ voucher.state }}</TsTag>
    <TsText muted>{{ voucher.until }}</TsText>
    <MoneyText :pence="voucher.worth" muted />
  </TsCard>
  <TsHeading>History</TsHeading>
  <TsCard v-for="event in voucher.events" :key="event.id">
    <TsText muted>{{ event.text }}</TsText>
  </TsCard>
</template>
