<script setup lang="ts">
defineProps<{ crates: { note: string } }>()
</script>

<template>
  <textarea v-model="crates.note" aria-label="Note"></textarea>
</template>
