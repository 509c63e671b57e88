<script setup lang="ts">
import { computed, ref } from 'vue'
import SlopePicker from './parts/SlopePicker.vue'

const props = defineProps<{ stations: string[] }>()
const emit = defineEmits<{ watch: [alarm: { station: string; degrees: number; slopes: string[]; phone: string; from: string }] }>()

const station = ref('')
const degrees = ref<number>(-2)
const slopes = ref<string[]>([])
const phone = ref('')
const from = ref('2026-03-01')
const slope = ref('north')
// no part of the form
const helpOpen = ref(false)
const sending = ref(false)

const byText = computed({
  get: () => phone.value,
  set: (text: string) => { phone.value = text.replace(/\s/g, '') },
})

async function save() {
  sending.value = true
  const alarm = { station: station.value, degrees: degrees.value, slopes: slopes.value, phone: phone.value, from: from.value }
  emit('watch', alarm)
  sending.value = false
}
</script>

<template>
  <button type="button" @click="helpOpen = !helpOpen">Help</button>
  <p v-if="helpOpen">A text message comes at night.</p>
  <form @submit.prevent="save">
    <label for="station">Station</label>
    <select id="station" v-model="station" required>
      <option v-for="one in props.stations" :key="one">{{ one }}</option>
    </select>
    <label>Below <input v-model.number="degrees" type="number" min="-15" /></label>
    <label v-for="one in ['upper', 'lower']" :key="one"><input v-model="slopes" type="checkbox" :value="one" /> {{ one }}</label>
    <input v-model="byText" aria-label="Phone" maxlength="20" />
    <input v-model="from" type="date" aria-label="From" />
    <SlopePicker v-model="slope" label="Slope" />
    <button :disabled="sending">Watch</button>
  </form>
</template>
