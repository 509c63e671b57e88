<template>
  <section>
    <input v-model="search" placeholder="Find a plot" @input="narrow" />
    <form @submit="lease">
      <input v-model="holder.name" name="name" required>
      <input v-model="holder.address.village" name="village">
      <label><input type="radio" value="year" v-model="term"> A year</label>
      <label><input type="radio" value="five" v-model="term"> Five years</label>
      <div v-for="(tool, index) in tools" :key="index">
        <input v-model="tool.what"> <input v-model.number="tool.days" type="number">
        <button type="button" @click="tools.splice(index, 1)">Without</button>
      </div>
      <input type="checkbox" v-model="agreed"> I know the rules
      <p v-if="wrong">{{ wrong }}</p>
      <button>Lease</button>
    </form>
  </section>
</template>

<script>
import { noHolder } from './parts/lease'

export default {
  name: 'PlotLease',
  props: { plots: Array },
  data() {
    return {
      holder: { ...noHolder, name: 'N. N.' },
      term: 'year',
      tools: [{ what: 'spade', days: 1 }],
      agreed: false,
      wrong: '',
      search: '',
    }
  },
  methods: {
    narrow() {
      this.$emit('narrow', this.search)
    },
    lease(event) {
      event.preventDefault()
      if (!this.agreed) { this.wrong = 'Read the rules first'; return }
      this.$emit('lease', { holder: this.holder, term: this.term, tools: this.tools })
    },
  },
}
</script>
