<script setup lang="ts">
import { ref } from 'vue';

const emit = defineEmits<{ lend: [key: object] }>();
const keeper = ref('');
const days = ref(1);
const spare = ref(false);
const gate = ref('north');
const errors = ref<{ keeper?: string; days?: string }>({});
const busy = ref(false);
const lent = ref(0);

function send() {
  const found: { keeper?: string; days?: string } = {};
  if (!keeper.value.trim()) found.keeper = 'Who keeps the key?';
  if (days.value > 14) found.days = 'Two weeks at most';
  errors.value = found;
  if (found.keeper || found.days) return;
  busy.value = true;
  setTimeout(() => {
    emit('lend', { keeper: keeper.value.trim(), days: days.value, spare: spare.value, gate: gate.value });
    busy.value = false;
    lent.value += 1;
    keeper.value = '';
    days.value = 1;
    spare.value = false;
  }, 500);
}
</script>

<template>
  <form @submit.prevent="send">
    <label for="keeper">Keeper</label>
    <input id="keeper" v-model="keeper" :class="errors.keeper ? 'bad' : 'good'" />
    <p v-if="errors.keeper">{{ errors.keeper }}</p>
    <label for="days">Days</label>
    <input id="days" v-model.number="days" type="number" />
    <p v-if="errors.days">{{ errors.days }}</p>
    <label><input v-model="spare" type="checkbox" /> Spare key</label>
    <select v-model="gate" aria-label="Gate">
      <option value="north">North gate</option>
      <option value="river">River gate</option>
    </select>
    <p>Lent today: {{ lent }}</p>
    <button :disabled="busy">Lend</button>
  </form>
</template>
