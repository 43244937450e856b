<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('prices')
const states = ['current', 'past']
</script>

<template>
  <form @submit.prevent="submit">
    <ts-page-header title="New price" />
    <ts-card raised>
      <ts-text-field v-model="values.plant" label="Plant" />
      <ts-date-field v-model="values.since" label="Since" />
      <ts-text-field v-model="values.pence" label="Pence" />
      <ts-select v-model="values.state" label="State" :options="states" />
      <ts-button look="solid" type="submit">Save</ts-button>
      <ts-button look="quiet" href="/prices">Cancel</ts-button>
    </ts-card>
  </form>
</template>
