<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import { includes, useRepository } from '@/frame/repository'
import { count } from '@/words/format'

const props = defineProps<{
  survey: Schemas['SurveyInfo']
  outdated?: string // what a complete survey of an older version does not hold
}>()
const repository = useRepository()
const queries = useQueryClient()
const fault = ref('')
const busy = ref(false)
const path = computed(() => ({ path: { repository: repository.value.id } }))
const underWay = computed(() => props.survey.state === 'waiting' || props.survey.state === 'running')
const may = computed(() => includes(repository.value.role, 'writer'))
const whole = computed(() => props.survey.stages.filter((s) => s.state === 'complete').length)

async function act(what: 'cancel' | 'again') {
  busy.value = true
  fault.value = ''
  try {
    if (what === 'cancel') await data(api.DELETE('/api/repositories/{repository}/survey', { params: path.value }))
    else await data(api.POST('/api/repositories/{repository}/survey', { params: path.value }))
    await queries.invalidateQueries({ queryKey: ['repository', repository.value.id] })
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <section v-if="survey.state !== 'complete' || outdated" class="survey" role="status">
    <div class="head">
      <div>
        <h2 v-if="survey.state === 'waiting'">Waiting to be surveyed</h2>
        <h2 v-else-if="survey.state === 'running'">Being surveyed: {{ whole }} of {{ survey.stages.length }} stages done</h2>
        <h2 v-else-if="survey.state === 'cancelled'">The survey was cancelled</h2>
        <h2 v-else-if="survey.state === 'complete'">An older version made this survey</h2>
        <h2 v-else class="fault">The survey failed</h2>
        <p v-if="survey.problem" class="fault">{{ survey.problem }}</p>
        <p v-if="survey.state === 'complete'" class="soft">{{ outdated }}</p>
        <p v-else class="soft">
          {{ whole ? 'What is shown comes from the stages that are done; it is not the whole.' : 'Nothing is known yet.' }}
        </p>
      </div>
      <a-button v-if="may && underWay" :loading="busy" @click="act('cancel')">Cancel the survey</a-button>
      <a-button v-else-if="may" type="primary" :loading="busy" @click="act('again')">Survey again</a-button>
    </div>
    <ol v-if="survey.state !== 'complete'">
      <li v-for="s in survey.stages" :key="s.name" :class="s.state">
        <span class="mark" aria-hidden="true">{{ s.state === 'complete' ? '■' : s.state === 'running' ? '◧' : '□' }}</span>
        <span class="title">{{ s.title }}</span>
        <span class="bar"><i :style="{ width: `${s.state === 'complete' ? 100 : s.total ? (100 * s.done) / s.total : 0}%` }" /></span>
        <span class="soft n">
          <template v-if="s.state === 'complete'">{{ count(s.total) }} {{ s.unit }}</template>
          <template v-else-if="s.state === 'running' && s.total">{{ count(s.done) }} of {{ count(s.total) }} {{ s.unit }}</template>
          <template v-else-if="s.state === 'running'">at it</template>
        </span>
      </li>
    </ol>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
  </section>
</template>

<style scoped>
.survey {
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: var(--radius);
  padding: 14px 18px;
  margin-bottom: 22px;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 24px;
  align-items: start;
}
ol {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 16px 190px minmax(80px, 1fr) 220px;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
}
li.waiting .title {
  color: var(--ink-soft);
}
.mark {
  color: var(--teal);
}
.bar {
  height: 6px;
  background: var(--rule-soft);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--teal);
}
</style>
