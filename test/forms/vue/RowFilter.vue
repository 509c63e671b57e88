<script setup>
import { computed, ref } from 'vue'
const props = defineProps({ rows: Array })
const word = ref('')
const open = ref(false)
const shown = computed(() => props.rows.filter((row) => row.includes(word.value)))
</script>

<template>
  <input v-model="word" aria-label="Filter" />
  <OrchardDialog v-model="open">{{ shown.length }}</OrchardDialog>
  <button @click="open = true">Show</button>
</template>
