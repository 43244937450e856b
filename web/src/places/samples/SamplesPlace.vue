<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { ask, GET, type Schemas } from '../../api/client'

const route = useRoute()
const data = shallowRef<Schemas['ApiSamplesOut']>()
const error = ref('')
const set = ref('usual')
onMounted(async () => { try { data.value = await ask(GET('/api/samples')) } catch (e) { error.value = (e as Error).message } })
const model = computed(() => data.value?.models.find(m => m.id === route.params.model) ?? data.value?.models[0])
const records = computed(() => (model.value && data.value?.sets.find(s => s.id === set.value)?.records[model.value.id]) || [])
const isPicture = (v: unknown): v is string => typeof v === 'string' && v.startsWith('data:image/')
const right = (type: string) => type === 'number' || type === 'money'
function shown(v: unknown, type: string): string {
  if (v === undefined || v === null) return ''
  if (type === 'money' && typeof v === 'number') return (v / 100).toFixed(2)
  return v === true ? 'yes' : v === false ? 'no' : String(v)
}
</script>

<template>
  <div class="flex h-full max-md:flex-col">
    <p v-if="error" role="alert" class="p-6 text-rust">{{ error }}</p>
    <nav class="w-56 shrink-0 overflow-auto border-r border-line py-2 max-md:w-full" aria-label="Models">
      <h1 class="px-4 pb-1 text-lg">Models</h1>
      <RouterLink v-for="m in data?.models" :key="m.id" :to="`/samples/${m.id}`" class="flex px-4 py-1 hover:bg-wash" :class="{ 'bg-mosswash font-semibold': m.id === model?.id }" :aria-current="m.id === model?.id ? 'true' : undefined">{{ m.name }}<span class="ml-auto font-normal text-ink2">{{ data?.sets.find(s => s.id === set)?.records[m.id]?.length ?? 0 }}</span></RouterLink>
    </nav>
    <section v-if="model" class="min-w-0 flex-1 overflow-auto" :aria-label="model.name">
      <div class="sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b border-line bg-ground px-4 py-2">
        <h2 class="text-xl">{{ model.name }}</h2><code class="text-ink2">{{ model.id }}</code>
        <div class="flex" role="radiogroup" aria-label="Sample set"><button v-for="s in data?.sets" :key="s.id" role="radio" :aria-checked="s.id === set" class="px-2" :class="s.id === set ? 'font-semibold text-moss' : 'text-ink2'" @click="set = s.id">{{ s.name.toLowerCase() }}</button></div>
        <span class="ml-auto text-ink2">on <template v-for="(u, i) in data?.uses[model.id]" :key="u.id"><template v-if="i">, </template><RouterLink class="underline" :to="`/bench/${u.id.replace(':', '/')}`">{{ u.name }}</RouterLink></template></span>
      </div>
      <table class="w-full border-collapse bg-sheet">
        <thead><tr><th class="th sticky top-0">id</th><th v-for="f in model.fields" :key="f.name" class="th" :class="{ 'text-right': right(f.type) }">{{ f.name }}<span v-if="f.required" class="text-rust" title="required"> *</span><span class="block text-xs font-normal">{{ f.type }}{{ f.model ? ' to ' + f.model : '' }}</span></th></tr></thead>
        <tbody><tr v-for="r in records" :key="String(r.id)"><td class="td font-mono text-xs text-ink2">{{ r.id }}</td><td v-for="f in model.fields" :key="f.name" class="td max-w-72 truncate" :class="{ 'text-right': right(f.type), 'text-rust': f.type === 'choice' && r[f.name] !== undefined && !f.choices?.includes(String(r[f.name])) }">
          <img v-if="isPicture(r[f.name])" :src="String(r[f.name])" alt="" class="h-8" /><template v-else>{{ shown(r[f.name], f.type) }}</template></td></tr></tbody>
      </table>
      <p v-if="!records.length" class="p-4 text-ink2">This set has no records of {{ model.name.toLowerCase() }}, on purpose: screens are to be seen with nothing, too.</p>
    </section>
    <p v-else-if="data" class="p-6 text-ink2">There are no models yet.</p>
  </div>
</template>
