<script setup lang="ts" generic="T extends object">
import { ref, type Ref } from 'vue'

const props = defineProps<{ start: T; store: (values: T) => Promise<void> }>()
const values = ref({ ...props.start }) as Ref<T>
const problem = ref('')
async function send() {
  await props.store(values.value).catch((error) => { problem.value = String(error) })
}
</script>

<template>
  <form @submit.prevent="send">
    <slot :values="values" :problem="problem" />
    <button>Store</button>
  </form>
</template>
