<script setup lang="ts">
const slope = defineModel<string>({ required: true })
defineProps<{ label: string }>()
function choose(next: string) {
  slope.value = next
}
</script>

<template>
  <fieldset>
    <legend>{{ label }}</legend>
    <input v-model="slope" aria-label="Slope" />
    <button type="button" @click="choose('south')">South</button>
  </fieldset>
</template>
