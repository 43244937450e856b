<script setup lang="ts">
import { TsNavLink, TsTopBar } from '@fernhollow/tansy'
</script>

<template>
  <ts-top-bar brand="Fernhollow stand">
    <ts-nav-link href="/plants">Plants</ts-nav-link>
    <ts-nav-link href="/sales">Sales</ts-nav-link>
  </ts-top-bar>
  <router-view />
</template>
