<script setup lang="ts">
import { ref } from 'vue'
import { keySheets } from './help'
import Dialog from './Dialog.vue'
import { useKeys } from './keys'

const open = ref(false)
useKeys({ '?': () => (open.value = true) })
</script>

<template>
  <Dialog v-if="open" title="Keys that work here" :width="720" @close="open = false">
    <div class="sheets">
      <section v-for="s in keySheets" :key="s.title">
        <h3>{{ s.title }}</h3>
        <dl>
          <template v-for="[keys, what] in s.keys" :key="keys">
            <dt>
              <kbd v-for="k in keys.split(' ')" :key="k">{{ k }}</kbd>
            </dt>
            <dd>{{ what }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </Dialog>
</template>

<style scoped>
.sheets {
  columns: 2;
  column-gap: 32px;
}
section {
  margin-bottom: 16px;
}
h3 {
  margin-bottom: 4px;
}
dl {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  margin: 0;
}
dt,
dd {
  margin: 0;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
}
kbd {
  margin-right: 3px;
}
</style>
