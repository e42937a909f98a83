<script setup lang="ts">
import { date } from '@/words/format'
import { inWords, useCorrections } from './use'

const props = defineProps<{ repository: number; writer: boolean }>()
const { list, undo } = useCorrections(() => props.repository)
</script>

<template>
  <section>
    <h2>Corrections of the survey</h2>
    <p v-if="list && !list.length" class="soft">
      Nobody has corrected the survey. Where it is wrong about a file, its page has “Something is wrong here”.
    </p>
    <table v-else-if="list">
      <tbody>
        <tr v-for="c in list" :key="c.id">
          <td class="mono">{{ c.path || 'the root' }}</td>
          <td>{{ inWords(c) }}</td>
          <td class="soft">{{ c.by || 'someone who has left' }}, {{ date(c.at) }}</td>
          <td><button v-if="writer" class="link" @click="undo(c)">take back</button></td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
