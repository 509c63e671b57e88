<script lang="ts" src="./parts/crate-count.ts"></script>

<template>
  <div class="crates">
    <input v-model.trim="crates.grower" aria-label="Grower" />
    <input v-model="crates.full" type="number" aria-label="Full" />
    <CrateNote :crates="crates" />
    <button type="button" @click="store">Store</button>
  </div>
</template>
