<script setup lang="ts">
import { keyTable } from '../use/keys'
import AppDialog from './AppDialog.vue'

defineEmits<{ close: [] }>()
</script>

<template>
  <AppDialog title="Keys" wide="most" @close="$emit('close')">
    <div class="gap-8 sm:columns-3">
      <section v-for="g in keyTable" :key="g.group" class="mb-4 break-inside-avoid">
        <h3 class="mb-1">{{ g.group }}</h3>
        <dl class="grid grid-cols-[auto_1fr] gap-x-3 text-sm leading-5">
          <template v-for="[key, what] in g.keys" :key="key"
            ><dt>
              <kbd class="kbd whitespace-nowrap">{{ key }}</kbd>
            </dt>
            <dd>{{ what }}</dd></template
          >
        </dl>
      </section>
    </div>
    <p class="mt-4 text-ink2">
      Single letters act only while a line has the focus, never while typing.
    </p>
  </AppDialog>
</template>
