<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('sales')
const states = ['paid', 'open']
</script>

<template>
  <form @submit.prevent="submit">
    <ts-page-header title="Edit sale" />
    <ts-card raised>
      <ts-text-field v-model="values.number" label="Number" />
      <ts-date-field v-model="values.sold" label="Sold" />
      <ts-text-field v-model="values.total" label="Total" />
      <ts-select v-model="values.state" label="State" :options="states" />
      <ts-button look="solid" type="submit">Save</ts-button>
      <ts-button look="quiet" href="/sales">Cancel</ts-button>
    </ts-card>
  </form>
</template>
