<script setup lang="ts">
import { useRound } from './parts/useRound'

const { values, errors, submit } = useRound({ row: 'A', pest: '', seen: 0 }, (round) => fetch('/rounds', { method: 'POST', body: JSON.stringify(round) }))
</script>

<template>
  <form @submit.prevent="submit">
    <input v-model="values.row" aria-label="Row" /><em v-if="errors.row">{{ errors.row }}</em>
    <input :value="values.pest" aria-label="Pest" @input="values.pest = ($event.target as HTMLInputElement).value" />
    <input v-model="values.seen" type="range" aria-label="Seen" />
    <button>Store</button>
  </form>
</template>
