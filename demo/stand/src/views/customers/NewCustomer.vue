<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('customers')
const states = ['regular', 'new']
</script>

<template>
  <form @submit.prevent="submit">
    <ts-page-header title="New customer" />
    <ts-card raised>
      <ts-text-field v-model="values.name" label="Name" />
      <ts-text-field v-model="values.email" label="Email" />
      <ts-text-field v-model="values.since" label="Since" />
      <ts-select v-model="values.state" label="State" :options="states" />
      <ts-button look="solid" type="submit">Store</ts-button>
      <ts-button look="quiet" href="/customers">Cancel</ts-button>
    </ts-card>
  </form>
</template>
