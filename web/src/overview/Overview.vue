<script setup lang="ts">
import { computed, ref } from 'vue'
import { words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { usePlans } from '@/plans/use'
import { Sentences, useSummary } from '@/told'
import SurveyState from '@/shelf/SurveyState.vue'
import { age, count, date, many, size } from '@/words/format'
import Block from './Block.vue'
import Readme from './Readme.vue'
import Recipes from './Recipes.vue'
import Starts from './Starts.vue'
import { useOverview } from './use'

const repository = useRepository()
const id = computed(() => repository.value.id)
const { data, error } = useOverview(id)
const { data: plans } = usePlans(id)
const { data: summary } = useSummary(id, '', () => data.value?.survey.state === 'complete')
const o = computed(() => data.value?.overview)
const rootReadme = computed(() => o.value?.readmes?.find((p) => !p.includes('/')) ?? o.value?.readmes?.[0])
const read = (path: string, line?: number) => ({
  name: 'read',
  params: { repository: id.value },
  query: { path, ...(line ? { lines: String(line) } : {}) },
})
const peopleShown = ref(6)
/** Until the files are read, their number stands in for their lines. */
const counted = computed(() => !!o.value?.entry_points)
const weight = (x: { lines: number; files: number }) => (counted.value ? x.lines : x.files)
const told = (x: { lines: number; files: number }) => (counted.value ? many(x.lines, 'line') : many(x.files, 'file'))
const most = computed(() => Math.max(1, ...(o.value?.folders ?? []).map(weight)))
/** How deep a language's files were looked into: one word, or how many each. */
function depth(l: { files: number; parsed: number; lexed: number; listed: number }) {
  const parts = (['parsed', 'lexed', 'listed'] as const).filter((d) => l[d])
  return parts.map((d) => (l[d] === l.files ? d : `${count(l[d])} ${d}`)).join(', ')
}
const depthTitle =
  'parsed: read by its grammar; lexed: comments, strings and an outline by token rules; listed: not read, the file says why'
</script>

<template>
  <div class="page overview">
    <p v-if="error" class="fault" role="alert">{{ words(error) }}</p>
    <SurveyState v-if="data" :survey="data.survey" />
    <div v-if="o" class="columns">
      <div>
        <Block v-if="summary?.sentences.length" title="In short" tone="is">
          <Sentences :sentences="summary.sentences" :repository="id" />
        </Block>
        <Block v-if="rootReadme" title="In its own words" :note="rootReadme"><Readme :repository="id" :path="rootReadme" /></Block>
        <Block v-else-if="o.counts.files" title="In its own words"
          ><p class="soft">There is no readme anywhere in this repository.</p></Block
        >
        <Block v-if="o.recipes" title="How it is built, run and tested" tone="is" :note="many(o.counts.recipes, 'recipe')">
          <Recipes :recipes="o.recipes" :total="o.counts.recipes" :repository="id" />
        </Block>
      </div>
      <div>
        <Block
          v-if="o.folders?.length"
          title="How it is laid out"
          tone="is"
          :note="`${many(o.counts.files, 'file')}, ${counted ? many(o.counts.lines, 'line') : 'lines not counted yet'}, ${size(o.counts.size)}`"
        >
          <table>
            <tbody>
              <tr v-for="f in o.folders.slice(0, 14)" :key="f.path">
                <td class="grow">
                  <router-link v-if="f.path" :to="{ name: 'read', params: { repository: id }, query: { folder: f.path } }"
                    >{{ f.path }}/</router-link
                  >
                  <span v-else>files at the root</span>
                </td>
                <td class="soft">{{ f.role }}</td>
                <td class="bar"><i :style="{ width: `${(100 * weight(f)) / most}%` }" /></td>
                <td class="n">{{ told(f) }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="o.folders.length > 14" class="soft">
            and {{ many(o.folders.length - 14, 'folder') }} more, {{ count(o.folders.slice(14).reduce((n, f) => n + f.lines, 0)) }} lines ·
            <router-link :to="{ name: 'read', params: { repository: id } }">all of them</router-link>
          </p>
          <p v-if="o.languages?.length" class="soft languages">
            <span v-for="l in o.languages.slice(0, 8)" :key="l.name"
              ><b>{{ l.name }}</b> {{ told(l) }} <i v-if="depth(l)" :title="depthTitle">{{ depth(l) }}</i></span
            >
            <span v-if="o.languages.length > 8">and {{ o.languages.length - 8 }} languages more</span>
          </p>
        </Block>
        <Block v-if="o.entry_points" title="Where it starts" tone="is" :note="many(o.counts.entry_points, 'entry point')">
          <Starts :entries="o.entry_points" :total="o.counts.entry_points" :repository="id" />
        </Block>
        <Block
          v-if="o.hotspots"
          title="Where it moves"
          tone="happened"
          :note="`${many(o.counts.commits, 'commit')}, ${date(o.first_at)} to ${date(o.last_at)}`"
        >
          <ol class="ranked">
            <li v-for="h in o.hotspots.slice(0, 7)" :key="h.path">
              <router-link :to="read(h.path)" class="mono">{{ h.path }}</router-link>
              <span class="soft">{{ h.reason }}</span>
            </li>
          </ol>
          <p v-if="!o.hotspots.length" class="soft">No file has changed more than once lately.</p>
          <p v-else-if="o.hotspots.length > 7" class="soft">
            {{ o.hotspots.length - 7 }} more among the
            <router-link :to="{ name: 'leads', params: { repository: id }, query: { kind: 'hotspot' } }">leads</router-link>
          </p>
        </Block>
        <Block v-if="o.people" title="Who knows what" tone="happened" :note="many(o.counts.people, 'person', 'people')">
          <table>
            <tbody>
              <tr v-for="p in o.people.slice(0, peopleShown)" :key="p.email + p.name">
                <td class="grow">{{ p.name }}</td>
                <td class="n">{{ many(p.commits, 'commit') }}</td>
                <td class="n">{{ many(p.files, 'file') }}</td>
                <td class="soft n">
                  {{
                    p.last_at && o.last_at
                      ? age(p.last_at, o.last_at) === 'the same day'
                        ? 'at the pin'
                        : age(p.last_at, o.last_at).replace('earlier', 'before the pin')
                      : ''
                  }}
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="o.people.length > peopleShown" class="soft">
            {{ count(o.counts.people - peopleShown) }} more ·
            <button class="link" @click="peopleShown = o.people!.length">
              show {{ o.people.length < o.counts.people ? `the ${o.people.length} with most commits` : 'all' }}
            </button>
          </p>
        </Block>
        <Block v-if="o.words" title="What is unfinished" :note="many(o.counts.tagged, 'tagged comment')">
          <p v-if="!o.words.length" class="soft">No comment carries an agreed word.</p>
          <p class="words">
            <a-tooltip v-for="w in o.words" :key="w.word" :title="w.meaning">
              <router-link :to="{ name: 'leads', params: { repository: id }, query: { kind: 'tagged-comment', detail: w.word } }"
                >◇ {{ w.word }} {{ count(w.count) }}</router-link
              >
            </a-tooltip>
          </p>
        </Block>
        <Block title="The plans there are" tone="plan" :note="plans ? many(plans.length, 'plan') : ''">
          <ul class="plans">
            <li v-for="p in plans ?? []" :key="p.id">
              <router-link :to="{ name: 'guide', params: { repository: id, plan: p.id } }">{{ p.title }}</router-link>
              <span class="soft">{{ many(p.passages, 'passage') }}, {{ p.minutes }} min{{ p.done ? `, ${p.done} done by you` : '' }}</span>
            </li>
          </ul>
          <p v-if="plans && !plans.length" class="soft">
            None yet. <router-link :to="{ name: 'plans', params: { repository: id } }">Begin one</router-link>, or add a lead or a file with
            <kbd>a</kbd>.
          </p>
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
    </div>
    <p v-else-if="!error" class="soft">Looking at the survey …</p>
  </div>
</template>

<style scoped>
.overview {
  max-width: 1500px;
  margin: 0 auto;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 48px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 2px 12px 2px 0;
  white-space: nowrap;
}
.grow {
  max-width: 200px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.n {
  text-align: right;
}
.bar {
  width: 90px;
}
.bar i {
  display: block;
  height: 9px;
  background: var(--teal);
  min-width: 1px;
}
.languages {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  margin-top: 8px;
}
.languages b {
  font-weight: 500;
  color: var(--ink);
}
.languages i {
  font-family: var(--serif);
}
.ranked {
  margin: 0;
  padding-left: 22px;
}
.ranked li {
  padding: 2px 0;
}
.ranked a {
  margin-right: 8px;
  overflow-wrap: anywhere;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
}
.words a {
  color: var(--ochre-text);
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
