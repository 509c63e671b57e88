<script setup lang="ts">
import { ref } from 'vue'
import OrchardForm from './parts/OrchardForm.vue'
import { emptyDay, type Day } from './parts/day'

const stored = ref('')
async function store(day: Day) {
  const answer = await fetch('/days', { method: 'POST', body: JSON.stringify(day) })
  stored.value = await answer.text()
}
</script>

<template>
  <OrchardForm :start="emptyDay" :store="store">
    <template #default="{ values, problem }">
      <input v-model="values.day" type="date" aria-label="Day" />
      <input v-model="values.pickers" type="number" aria-label="Pickers" />
      <p>{{ problem }}</p>
    </template>
  </OrchardForm>
  <output>{{ stored }}</output>
</template>
