<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { words } from '@/api/client'
import { includes, useRepository } from '@/frame/repository'
import { ThreadsHere, useWrittenAbout } from '@/notes'
import { usePlans } from '@/plans/use'
import { Sentences, useSummaries } from '@/told'
import SurveyState from '@/shelf/SurveyState.vue'
import { count, many, size } from '@/words/format'
import Block from './Block.vue'
import Knowing from './Knowing.vue'
import Moving from './Moving.vue'
import { narrowed, root } from './part'
import Parts from './Parts.vue'
import Readme from './Readme.vue'
import Recipes from './Recipes.vue'
import Shape from './Shape.vue'
import Shelved from './Shelved.vue'
import Starts from './Starts.vue'
import Unfinished from './Unfinished.vue'
import { useFolder, useOverview, useReadme } from './use'

const repository = useRepository()
const route = useRoute()
const router = useRouter()
const id = computed(() => repository.value.id)
const { data, error } = useOverview(id)
const { data: plans } = usePlans(id)
const o = computed(() => data.value?.overview)
/** The part that the page is narrowed to; "": none. */
const part = computed(() => {
  const asked = typeof route.query.part === 'string' ? route.query.part : ''
  return o.value?.parts.some((p) => (p.path || root) === asked) ? asked : ''
})
/** The folder that is told of: the part's, else the whole. */
const place = computed(() => (part.value === root ? '' : part.value))
const { data: summary, error: untold } = useSummaries(id, place, () => data.value?.survey.state === 'complete')
const of = <T,>(list: T[] | null | undefined, path: (item: T) => string) => narrowed(list ?? [], o.value?.parts ?? [], part.value, path)
const top = (path: string) => path.split('/')[0]!
const recipes = computed(() => of(o.value?.recipes, (r) => (r.folder ? `${r.folder}/` : r.path)))
const entries = computed(() => of(o.value?.entry_points, (e) => e.path))
const hotspots = computed(() => of(o.value?.hotspots, (h) => h.path))
/** Of a part, the folders right below it are asked for when it is chosen. */
const { data: inside } = useFolder(id, place)
const folders = computed(() =>
  place.value
    ? (inside.value?.children ?? [])
        .filter((c) => c.folder)
        .map((c) => ({ path: c.path, role: '', files: c.files, lines: c.lines ?? 0, commits: c.commits ?? 0 }))
        .sort((a, b) => b.lines - a.lines)
    : (o.value?.folders ?? []),
)
/** Who knows what is told for top folders: that of the part. */
const knowledge = computed(() =>
  (o.value?.knowledge ?? []).filter((k) => !part.value || part.value === root || k.folder === top(part.value)),
)
/** A part's own readme is asked for when the part is chosen. */
const partReadmePath = computed(() => {
  const list = of(o.value?.readmes, (p) => p)
  return part.value ? (list[0] ?? '') : ''
})
const { data: partReadme } = useReadme(id, () => (partReadmePath.value === data.value?.readme?.path ? '' : partReadmePath.value))
const readme = computed(() => {
  if (!part.value) return data.value?.readme
  return [data.value?.readme, partReadme.value].find((r) => r && r.path === partReadmePath.value)
})
const chosen = computed(() => o.value?.parts.find((p) => (p.path || root) === part.value))
const partName = computed(() => chosen.value?.name)
useWrittenAbout(() => (place.value ? { path: place.value, folder: true } : {}))
const narrow = (to: string) => void router.replace({ query: { ...route.query, part: to || undefined } })
const amount = computed(() => {
  if (chosen.value) return `${many(chosen.value.files, 'file')}, ${many(chosen.value.lines, 'line')}`
  const x = o.value!
  return `${many(x.counts.files, 'file')}, ${x.entry_points ? many(x.counts.lines, 'line') : 'lines not counted yet'}, ${size(x.counts.size)}`
})
</script>

<template>
  <div class="page overview">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <SurveyState v-if="data" :survey="data.survey" :outdated="untold ? words(untold) : undefined" />
    <p v-if="part" class="narrowing">
      Narrowed to <b>{{ partName }}</b> ·
      <button class="link" @click="narrow('')">show the whole repository</button>
    </p>
    <div v-if="o" class="columns">
      <div>
        <Block v-if="summary?.sentences.length" :title="place ? `${partName} in short` : 'In short'" tone="is">
          <Sentences :sentences="summary.sentences" :repository="id" :folder="place || undefined" />
        </Block>
        <Block v-if="readme" :title="partName ? `${partName} in its own words` : 'In its own words'" :note="readme.path">
          <p v-if="!part && readme.path.includes('/')" class="soft">
            There is no readme at the root; this is the one nearest to it, of {{ many(o.readmes?.length ?? 0, 'readme') }}.
          </p>
          <Readme :readme="readme" />
        </Block>
        <Block v-else-if="part && !partReadmePath" :title="`${partName} in its own words`"
          ><p class="soft">This part has no readme.</p></Block
        >
        <Block v-else-if="o.counts.files && !part" title="In its own words"
          ><p class="soft">
            {{ o.readmes?.length ? `${o.readmes[0]} cannot be shown.` : 'There is no readme anywhere in this repository.' }}
          </p></Block
        >
        <Block v-if="o.parts.length" title="What stands side by side" tone="is">
          <Parts :parts="o.parts" :total="o.counts.parts" :part="part" :repository="id" @part="narrow" />
        </Block>
        <Block
          v-if="o.recipes"
          :title="partName ? `How ${partName} is built, run and tested` : 'How it is built, run and tested'"
          tone="is"
          :note="many(part ? recipes.length : o.counts.recipes, 'recipe')"
        >
          <Recipes :recipes="recipes" :total="part ? recipes.length : o.counts.recipes" :repository="id" />
        </Block>
        <Block
          v-if="o.words"
          :title="part ? 'What is unfinished in the whole repository' : 'What is unfinished'"
          :note="many(o.counts.tagged, 'tagged comment')"
        >
          <Unfinished :words="o.words" :pin-at="o.pin_at" :repository="id" />
        </Block>
        <Block
          v-if="o.depends.length || o.submodules.length"
          title="What it builds upon"
          tone="is"
          :note="many(o.counts.depends, 'dependency', 'dependencies')"
        >
          <Shelved :overview="o" :shelf="data!.shelf" :repository="id" />
        </Block>
        <Block v-if="o.limits?.length || repository.notes.length" title="What this survey could not see">
          <ul class="limits">
            <li v-for="n in repository.notes" :key="n">{{ n }}</li>
            <li v-for="l in o.limits" :key="l.what + l.why">
              <span class="soft">{{ l.what }}:</span> {{ l.why }}
            </li>
          </ul>
        </Block>
      </div>
      <div>
        <Block v-if="o.folders?.length" :title="place ? `How ${partName} is laid out` : 'How it is laid out'" tone="is" :note="amount">
          <Shape :overview="o" :folders="folders" :said="summary?.children ?? []" :repository="id" :whole="!part" />
        </Block>
        <Block
          v-if="o.entry_points"
          :title="partName ? `Where ${partName} starts` : 'Where it starts'"
          tone="is"
          :note="many(part ? entries.length : o.counts.entry_points, 'entry point')"
        >
          <Starts :entries="entries" :total="o.counts.entry_points" :repository="id" :narrowed="!!part" />
        </Block>
        <Block
          v-if="o.hotspots"
          :title="partName ? `Where ${partName} moves` : 'Where it moves'"
          tone="happened"
          :note="`${count(hotspots.length)} of ${many(chosen?.files ?? o.counts.files, 'file')}`"
        >
          <Moving :hotspots="hotspots" :commits="o.counts.commits" :repository="id" :narrowed="!!part" />
        </Block>
        <Block v-if="o.knowledge" title="Who knows what" tone="happened" :note="many(o.counts.people, 'person', 'people')">
          <Knowing :overview="o" :knowledge="knowledge" :repository="id" />
        </Block>
        <Block title="The plans there are" tone="plan" :note="plans ? many(plans.length, 'plan') : ''">
          <ul class="plans">
            <li v-for="p in plans ?? []" :key="p.id">
              <router-link :to="{ name: 'guide', params: { repository: id, plan: p.id } }">{{ p.title }}</router-link>
              <span class="soft"
                >{{ many(p.passages, 'passage') }}, {{ p.minutes }} min;
                {{ p.done ? `${p.done} of ${p.passages} done by you` : p.place ? 'begun by you' : 'not begun by you' }}</span
              >
            </li>
          </ul>
          <p v-if="plans" class="soft">
            <template v-if="!plans.length">None yet. </template>
            <router-link :to="{ name: 'draft-plan', params: { repository: id }, query: { minutes: 60 } }">Draft one for an hour</router-link
            >, <router-link :to="{ name: 'plans', params: { repository: id } }">begin an empty one</router-link>, or add a lead or a file
            with <kbd>a</kbd>.
          </p>
        </Block>
        <ThreadsHere v-if="!part" :repository="id" path="" :writer="includes(repository.role, 'writer')" />
      </div>
    </div>
    <p v-else-if="!error" class="soft">Looking at the survey …</p>
  </div>
</template>

<style scoped>
.overview {
  max-width: 1500px;
  margin: 0 auto;
}
.narrowing {
  padding-bottom: 14px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 48px;
}
.plans,
.limits {
  margin: 0;
  padding: 0;
  list-style: none;
}
.plans li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 2px 0;
}
.limits li {
  padding: 2px 0;
  overflow-wrap: anywhere;
}
</style>
