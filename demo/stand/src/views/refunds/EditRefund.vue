<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('refunds')
const states = ['made', 'open']
</script>

<template>
  <form @submit.prevent="submit">
    <ts-page-header title="Edit refund" />
    <ts-card raised>
      <ts-text-field v-model="values.sale" label="Sale" />
      <ts-date-field v-model="values.made" label="Made" />
      <ts-text-field v-model="values.total" label="Total" />
      <ts-select v-model="values.state" label="State" :options="states" />
      <ts-button look="solid" type="submit">Save</ts-button>
      <ts-button look="quiet" href="/refunds">Cancel</ts-button>
    </ts-card>
  </form>
</template>
