<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('vouchers')
const states = ['used', 'open']
</script>

<template>
  <form @submit.prevent="submit">
    <TsPageHeader title="Edit voucher" />
    <TsCard raised>
      <TsTextField v-model="values.code" label="Code" />
      <TsDateField v-model="values.until" label="Until" />
      <TsTextField v-model="values.worth" label="Worth" />
      <TsSelect v-model="values.state" label="State" :options="states" />
      <TsButton look="solid" type="submit">Save</TsButton>
      <TsButton look="quiet" href="/vouchers">Cancel</TsButton>
    </TsCard>
  </form>
</template>
