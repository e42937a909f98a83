<script setup lang="ts">
import { words, type Schemas } from '@/api/client'
import { Correct } from '@/correct'
import { FileLinks, Origin, Sentences } from '@/told'
import { count, date, many, size } from '@/words/format'
import { withoutWord } from '@/words/tagged'

defineProps<{
  repository: number
  file?: Schemas['FileInfo']
  links?: Schemas['LinksInfo']
  linksError?: unknown
  summary?: Schemas['SummaryInfo']
  outline?: Schemas['OutlineInfo']
  error: unknown
  writer: boolean // may correct the survey
  elsewhere: boolean // another commit than the pin's is shown
}>()

const depths: Record<string, string> = {
  parsed: 'with its grammar',
  lexed: 'comments, strings and an outline by token rules',
  listed: 'not read',
}
</script>

<template>
  <aside>
    <p v-if="error" class="fault">{{ words(error) }}</p>
    <template v-if="outline">
      <template v-if="summary?.sentences.length && !elsewhere">
        <h2>In short</h2>
        <Sentences :sentences="summary.sentences" :repository="repository" />
      </template>
      <h2>What it is</h2>
      <dl>
        <template v-if="file && !elsewhere">
          <dt>role</dt>
          <dd>
            {{ file.role }}<span class="soft">, {{ file.role_evidence }}</span>
          </dd>
        </template>
        <dt>language</dt>
        <dd>{{ outline.language || 'none recognised' }}</dd>
        <template v-if="file && !elsewhere">
          <dt>lines</dt>
          <dd v-if="file.lines !== null">{{ count(file.code) }} code, {{ count(file.comment) }} comment, {{ count(file.blank) }} blank</dd>
          <dd v-else class="soft">not counted: {{ file.depth_reason || 'not read yet' }}</dd>
          <dt>size</dt>
          <dd>{{ size(file.size) }}</dd>
        </template>
        <dt>looked into</dt>
        <dd>
          {{ depths[outline.depth] ?? 'not yet' }}<span v-if="outline.reason" class="soft">: {{ outline.reason }}</span>
        </dd>
        <template v-if="outline.intricacy !== null">
          <dt>intricacy</dt>
          <dd title="Each decision counts 1, and 1 more for every decision it stands in">{{ count(outline.intricacy) }}</dd>
        </template>
        <template v-if="links && !elsewhere && (links.layer || links.dependents_total)">
          <dt>layer</dt>
          <dd title="0 leans on nothing of this repository; each layer leans on those below">{{ links.layer }}</dd>
        </template>
        <template v-if="outline.generated || outline.minified || outline.vendored">
          <dt>marks</dt>
          <dd>
            <div v-if="outline.generated">
              generated: <q>{{ outline.generated }}</q>
            </div>
            <div v-if="outline.minified">minified</div>
            <div v-if="outline.vendored">names itself {{ outline.vendored }}</div>
          </dd>
        </template>
        <template v-if="outline.encoding">
          <dt>encoding</dt>
          <dd>{{ outline.encoding }}</dd>
        </template>
      </dl>
      <Correct
        v-if="writer && file && !elsewhere"
        :repository="repository"
        :path="file.path"
        :role="file.role"
        :started="file.leads.some((l) => l.kind === 'entry-point')"
      />
      <template v-if="outline.tagged.length">
        <h2>Tagged comments</h2>
        <ul>
          <li v-for="t in outline.tagged" :key="`${t.line}${t.word}`">
            <router-link :to="{ query: { ...$route.query, lines: String(t.line) } }" class="line">:{{ t.line }}</router-link>
            <span>
              <span class="tag">◇ {{ t.word }}</span>
              {{ withoutWord(t) }} <span class="soft">“{{ t.meaning }}”</span>
            </span>
          </li>
        </ul>
      </template>
      <template v-if="outline.imports.length">
        <h2>{{ links ? 'What it imports' : 'Imports, as written' }}</h2>
        <p v-if="linksError && !elsewhere" class="soft">{{ words(linksError) }}</p>
        <ul>
          <li v-for="(i, n) in outline.imports" :key="n">
            <router-link :to="{ query: { ...$route.query, lines: String(i.line) } }" class="line">:{{ i.line }}</router-link>
            <span>
              <span class="mono">{{ i.text }}</span>
              <span v-if="i.names.length && !i.text.endsWith(i.names[0]!)" class="soft"> {{ i.names.join(', ') }}</span>
              <span v-if="i.reexport" class="soft"> handed on</span>
              <Origin v-if="links?.imports[n] && !elsewhere" :origin="links.imports[n]!" :repository="repository" />
            </span>
          </li>
        </ul>
      </template>
    </template>
    <FileLinks v-if="links && !elsewhere" :links="links" :repository="repository" />
    <template v-if="file && !elsewhere">
      <h2 class="happened">What happened</h2>
      <dl v-if="file.commits !== null">
        <dt>changes</dt>
        <dd>{{ count(file.commits) }}, {{ file.recent?.toFixed(1) }} by age</dd>
        <dt>lines</dt>
        <dd v-if="file.lines_added !== null">+{{ count(file.lines_added) }} −{{ count(file.lines_deleted) }}</dd>
        <dd v-else class="soft">being counted</dd>
        <dt>first, last</dt>
        <dd>{{ date(file.first_at) }}, {{ date(file.last_at) }}</dd>
        <dt>people</dt>
        <dd>
          <div v-for="p in file.people" :key="p.name">
            {{ p.name }} <span class="soft">{{ many(p.commits, 'change') }}</span>
          </div>
        </dd>
      </dl>
      <p v-else class="soft">The history is being read.</p>
      <template v-if="file.leads.some((l) => l.kind !== 'tagged-comment')">
        <h2>Leads here</h2>
        <ul>
          <li v-for="l in file.leads.filter((x) => x.kind !== 'tagged-comment')" :key="l.id">
            <router-link v-if="l.line" :to="{ query: { path: file.path, lines: String(l.line) } }" class="line">:{{ l.line }}</router-link>
            <span v-else class="line soft">file</span>
            <span
              >{{ l.kind === 'hotspot' || l.kind === 'hub' ? l.why : l.title }}
              <span class="soft">{{ l.kind.replace('-', ' ') }}</span></span
            >
          </li>
        </ul>
      </template>
    </template>
  </aside>
</template>

<style scoped>
aside {
  padding: 16px 20px;
  overflow: auto;
}
h2 {
  font-size: 15.5px;
  color: var(--teal);
  margin: 0 0 6px;
}
dl + h2,
ul + h2,
p + h2 {
  margin-top: 18px;
}
ul + h2,
div + h2 {
  margin-top: 18px;
}
h2.happened {
  color: var(--ochre-text);
}
h2.happened ~ h2 {
  color: var(--ink);
}
dl {
  display: grid;
  grid-template-columns: 78px minmax(0, 1fr);
  margin: 0;
}
dt,
dd {
  margin: 0;
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
dt {
  color: var(--ink-soft);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 48px minmax(0, 1fr);
  padding: 3px 0;
  border-top: 1px solid var(--rule-soft);
  overflow-wrap: anywhere;
}
.line {
  font: 12.5px var(--mono);
  padding-top: 2px;
}
.mono {
  font: 12.5px var(--mono);
}
.tag {
  color: var(--ochre-text);
  white-space: nowrap;
}
</style>
