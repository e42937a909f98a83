<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { words } from '@/api/client'
import { notice } from '@/frame/notice'
import { includes, useRepository } from '@/frame/repository'
import { date, many } from '@/words/format'
import TakePlan from './TakePlan.vue'
import { usePlanAtHand, usePlanChanges, usePlans } from './use'

const repository = useRepository()
const router = useRouter()
const id = computed(() => repository.value.id)
const { data: plans, error } = usePlans(id)
const { id: atHand, take } = usePlanAtHand(id)
const changes = usePlanChanges(id)
const writer = computed(() => includes(repository.value.role, 'writer'))
const title = ref('')
const isPrivate = ref(!writer.value)
const busy = ref(false)

function stateOf(p: NonNullable<typeof plans.value>[number]): string {
  if (p.private) return 'private: only you see it'
  if (!p.newest) return 'not published yet: only writers see it'
  if (p.edition < p.newest) return `you read edition ${p.edition}; edition ${p.newest} is there`
  return `edition ${p.newest}${p.ahead ? ', the draft is ahead' : ''}`
}

async function begin() {
  busy.value = true
  try {
    const p = await changes.begin(title.value.trim(), isPrivate.value)
    take(p.id)
    await router.push({ name: 'compose', params: { repository: id.value, plan: p.id } })
  } catch (e) {
    notice(words(e), { fault: true })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="page plans">
    <h1>Plans</h1>
    <p class="prose lead">A plan is an ordered way through the code. Share its address; everyone follows it at their own pace.</p>
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <ul v-if="plans?.length">
      <li v-for="p in plans" :key="p.id">
        <div class="what">
          <router-link class="name" :to="{ name: 'guide', params: { repository: id, plan: p.id } }">{{ p.title }}</router-link>
          <p v-if="p.purpose">{{ p.purpose }}</p>
          <p class="soft">
            {{ many(p.chapters, 'chapter') }}, {{ many(p.passages, 'passage') }}, {{ p.minutes }} min · begun by
            {{ p.mine ? 'you' : p.by || 'an account that is gone' }} · changed {{ date(p.changed_at) }} ·
            {{ stateOf(p) }}
          </p>
          <p v-if="p.elsewhere" class="elsewhere">
            {{ p.elsewhere === p.passages ? 'read' : `${many(p.elsewhere, 'passage')} read` }} at an older pin than this
            <router-link v-if="p.may_write" :to="{ name: 'compose', params: { repository: id, plan: p.id }, query: { side: 'pin' } }"
              >what became of it</router-link
            >
          </p>
        </div>
        <div class="far">
          <span class="bar" aria-hidden="true"><i :style="{ width: `${p.passages ? (100 * p.done) / p.passages : 0}%` }" /></span>
          <span class="soft">{{ p.done ? `${p.done} of ${p.passages} done` : 'not begun' }}</span>
        </div>
        <div class="acts">
          <router-link v-if="p.passages" :to="{ name: 'guide', params: { repository: id, plan: p.id } }"
            ><a-button :type="atHand === p.id ? 'primary' : 'default'">{{
              p.done && p.done < p.passages ? 'Go on reading' : p.done ? 'Read again' : 'Follow it'
            }}</a-button></router-link
          >
          <router-link v-if="p.may_write" :to="{ name: 'compose', params: { repository: id, plan: p.id } }"
            ><a-button>Compose</a-button></router-link
          >
        </div>
      </li>
    </ul>
    <p v-else-if="plans" class="soft none">There is no plan yet.</p>
    <section class="new">
      <h2>Draft a plan</h2>
      <p>A proposal from what the survey found: what to read, in which order, and why. How long is there?</p>
      <div class="row">
        <router-link
          v-for="s in [
            { minutes: 30, says: 'half an hour' },
            { minutes: 60, says: 'an hour' },
            { minutes: 120, says: 'two hours' },
            { minutes: 480, says: 'a day' },
          ]"
          :key="s.minutes"
          :to="{ name: 'draft-plan', params: { repository: id }, query: { minutes: s.minutes } }"
          ><a-button>{{ s.says }}</a-button></router-link
        >
      </div>
    </section>
    <form class="new" @submit.prevent="begin">
      <h2>Begin an empty plan</h2>
      <div class="row">
        <a-input v-model:value="title" name="plan-title" placeholder="What will a reader know after it?" :maxlength="200" required />
        <a-button html-type="submit" :loading="busy" :disabled="!title.trim()">Begin</a-button>
      </div>
      <a-checkbox v-model:checked="isPrivate" :disabled="!writer">private: only I see it</a-checkbox>
      <p v-if="!writer" class="soft">Readers keep private plans; writers share them.</p>
    </form>
    <TakePlan :repository="id" :writer="writer" />
  </div>
</template>

<style scoped>
.elsewhere {
  color: var(--ochre-text);
  font-size: 12.5px;
}
.plans {
  max-width: 1080px;
  margin: 0 auto;
}
.lead {
  margin: 4px 0 14px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 130px 230px;
  gap: 24px;
  align-items: center;
  padding: 14px 0;
  border-bottom: 1px solid var(--rule);
}
.name {
  font: 600 18px/1.3 var(--serif);
  color: var(--ink);
}
.far .bar {
  display: block;
  height: 8px;
  background: var(--plum-pale);
  margin-bottom: 4px;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--plum);
}
.acts {
  display: flex;
  gap: 8px;
  justify-content: end;
}
.none {
  padding: 12px 0;
}
.new {
  display: grid;
  gap: 8px;
  margin-top: 30px;
  max-width: 680px;
}
.row {
  display: flex;
  gap: 10px;
}
@media (max-width: 700px) {
  li {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
  .far {
    max-width: 200px;
  }
  .acts {
    justify-content: start;
  }
  .row {
    flex-wrap: wrap;
  }
}
</style>
