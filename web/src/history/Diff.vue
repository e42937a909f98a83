<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { useIntersectionObserver } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { api, data, words } from '@/api/client'
import { useRepository } from '@/frame/repository'
import { count, date, many, short, size } from '@/words/format'
import { rowsOf, runsOf, unified } from './diff'

/** How one file differs between two commits. */
const props = defineProps<{
  from: string // "": nothing
  to: string
  path: string
  oldPath: string
  /** One below the other, or side by side. */
  sideBySide: boolean
  ignoreSpace: boolean
  /** The change that is stepped to, from 0; -1: none of this file. */
  at: number
}>()
const emit = defineEmits<{ changes: [count: number] }>()
const repository = useRepository()
const id = computed(() => repository.value.id)
const box = useTemplateRef<HTMLElement>('box')
const near = ref(false)
useIntersectionObserver(box, ([e]) => e?.isIntersecting && (near.value = true), { rootMargin: '900px' })
watch(
  () => props.at,
  (n) => n >= 0 && (near.value = true),
  { immediate: true },
)
const wide = ref(3)
const whole = ref(false)
const { data: d, error } = useQuery({
  queryKey: computed(() => ['repository', id.value, 'diff', { ...props, at: undefined, sideBySide: undefined }, wide.value, whole.value]),
  queryFn: ({ signal }) =>
    data(
      api.GET('/api/repositories/{repository}/diff', {
        params: {
          path: { repository: id.value },
          query: {
            path: props.path,
            old_path: props.oldPath || undefined,
            from: props.from || undefined,
            to: props.to,
            context: wide.value,
            ignore_space: props.ignoreSpace || undefined,
            whole: whole.value || undefined,
          },
        },
        signal,
      }),
    ),
  enabled: near,
  retry: false,
  placeholderData: keepPreviousData,
  staleTime: Infinity,
})
const rows = computed(() => (d.value ? rowsOf(d.value) : []))
const shown = computed(() => (props.sideBySide ? rows.value : unified(rows.value)))
const changes = computed(() => d.value?.pieces.filter((p) => p.kind === 'changed').length ?? 0)
watch(d, (x) => x && emit('changes', x.pieces.filter((p) => p.kind === 'changed').length), { immediate: true })
watch([() => props.at, d], async ([n]) => {
  if (n < 0 || !d.value) return
  await nextTick()
  box.value?.querySelector(`[data-change="${n}"]`)?.scrollIntoView({ block: 'center' })
})
const picture = (side: 'old' | 'new') => {
  const s = d.value?.[side]
  return s ? `/api/repositories/${id.value}/picture?${new URLSearchParams({ path: s.path, at: s.commit })}` : ''
}
const label = (side: 'old' | 'new') => {
  const s = d.value?.[side]
  return s ? `${short(s.commit)}, ${date(s.time)}` : side === 'old' ? 'not there before' : 'not there any more'
}
/** Where the changes lie in the whole file, as shares of it: the first ones of
 * very many. */
const mostPlaces = 400
const places = computed(() => {
  const n = Math.max(1, d.value?.new?.lines ?? d.value?.old?.lines ?? 1)
  return (d.value?.places ?? []).slice(0, mostPlaces).map((p) => ({
    left: `${((100 * Math.max(0, p.new_start - 1)) / n).toFixed(2)}%`,
    width: `max(2px, ${((100 * p.new_count) / n).toFixed(2)}%)`,
    hollow: !p.new_count,
  }))
})
</script>

<template>
  <div ref="box" class="diff">
    <p v-if="error" class="fault note" role="alert">{{ words(error) }}</p>
    <p v-else-if="!d" class="soft note">{{ near ? 'Comparing …' : 'Not looked at yet.' }}</p>
    <template v-else>
      <div class="ends soft">
        <span
          >before: {{ label('old') }}<template v-if="oldPath && oldPath !== path">, as {{ oldPath }}</template></span
        >
        <span>after: {{ label('new') }}</span>
        <span
          v-if="d.places.length"
          class="where"
          :title="`Where the changes lie in ${many(d.new?.lines ?? d.old?.lines ?? 0, 'line')}${d.places.length > mostPlaces ? `: the first ${mostPlaces} of ${count(d.places.length)}` : ''}`"
          ><i v-for="(p, i) in places" :key="i" :class="{ hollow: p.hollow }" :style="{ left: p.left, width: p.width }"
        /></span>
      </div>
      <div v-if="d.picture" class="pictures">
        <figure v-for="s in ['old', 'new'] as const" :key="s">
          <img v-if="d[s]" :src="picture(s)" :alt="`${path}, ${s === 'old' ? 'before' : 'after'}`" />
          <figcaption class="soft">
            {{ s === 'old' ? 'before' : 'after' }}<template v-if="d[s]">, {{ size(d[s]!.size) }}</template
            ><template v-else>: not there</template>
          </figcaption>
        </figure>
      </div>
      <p v-else-if="d.unshown" class="note">
        {{ d.unshown }} <template v-if="d.old">Before {{ size(d.old.size) }}</template
        ><template v-if="d.old && d.new">, after </template><template v-if="d.new">{{ size(d.new.size) }}</template
        >.
      </p>
      <p v-else-if="d.large" class="note">
        {{ many(d.added + d.deleted, 'changed line') }}: more than are shown unasked.
        <button class="link" @click="whole = true">Show them</button>
      </p>
      <p v-else-if="!changes" class="note soft">
        {{ ignoreSpace ? 'No line differs but in white space.' : 'No line differs: its name or mode alone changed.' }}
      </p>
      <table v-else :class="{ beside: sideBySide }" :aria-label="`Changes of ${path}`">
        <colgroup v-if="sideBySide">
          <col class="n" />
          <col class="half" />
          <col class="n" />
          <col class="half" />
        </colgroup>
        <tbody>
          <template v-for="(r, i) in shown" :key="i">
            <tr v-if="r.kind === 'hidden'" class="hidden">
              <td :colspan="sideBySide ? 4 : 3">
                <button class="link" @click="wide = wide < 20 ? 25 : 10_000_000">
                  {{ many(r.count, 'line') }} the same · {{ wide < 20 ? 'show more around' : 'show all' }}
                </button>
              </td>
            </tr>
            <tr
              v-else-if="sideBySide"
              :class="r.what"
              :data-change="r.change >= 0 && (i === 0 || (shown[i - 1] as typeof r).change !== r.change) ? r.change : undefined"
            >
              <td class="number">{{ r.old?.number }}</td>
              <td class="code" :class="{ went: r.what === 'changed' && r.old, none: !r.old }">
                <template v-if="r.old"
                  ><span v-for="(x, k) in runsOf(r.old, d.classes)" :key="k" :class="[x.class, { mark: x.changed }]">{{
                    x.text
                  }}</span></template
                >
              </td>
              <td class="number">{{ r.new?.number }}</td>
              <td class="code" :class="{ came: r.what === 'changed' && r.new, none: !r.new }">
                <template v-if="r.new"
                  ><span v-for="(x, k) in runsOf(r.new, d.classes)" :key="k" :class="[x.class, { mark: x.changed }]">{{
                    x.text
                  }}</span></template
                >
              </td>
            </tr>
            <tr
              v-else
              :class="r.what"
              :data-change="r.change >= 0 && (i === 0 || (shown[i - 1] as typeof r).change !== r.change) ? r.change : undefined"
            >
              <td class="number">{{ r.old?.number }}</td>
              <td class="number">{{ r.new?.number }}</td>
              <td class="code" :class="{ went: r.what === 'changed' && r.old, came: r.what === 'changed' && r.new }">
                <span class="sign" aria-hidden="true">{{ r.what === 'same' ? ' ' : r.old ? '−' : '+' }}</span><span
                  v-for="(x, k) in runsOf((r.old ?? r.new)!, d.classes)"
                  :key="k"
                  :class="[x.class, { mark: x.changed }]"
                  >{{ x.text }}</span
                ><span v-if="(r.old ?? r.new)!.line.clipped" class="soft">
                  … {{ count((r.old ?? r.new)!.line.clipped) }} characters more</span
                >
              </td>
            </tr>
          </template>
        </tbody>
      </table>
      <p v-if="d.cut" class="note soft">{{ many(d.cut, 'further changed line') }} are not shown.</p>
    </template>
  </div>
</template>

<style scoped>
.diff {
  border-top: 1px solid var(--rule-soft);
  min-height: 60px;
  overflow-x: auto;
}
.note {
  padding: 8px 14px;
}
.ends {
  display: flex;
  gap: 24px;
  align-items: center;
  padding: 3px 14px;
  font-size: 12px;
}
.where {
  position: relative;
  flex: 1;
  min-width: 60px;
  height: 8px;
  border: 1px solid var(--rule);
}
.where i {
  position: absolute;
  top: 0;
  bottom: 0;
  background: var(--ochre);
}
.where i.hollow {
  background: var(--ink-soft);
}
table {
  border-collapse: collapse;
  width: 100%;
  font: 12.5px/1.55 var(--mono);
}
table.beside {
  table-layout: fixed;
}
col.n {
  width: 52px;
}
.number {
  width: 48px;
  min-width: 48px;
  padding: 0 8px 0 0;
  text-align: right;
  color: var(--ink-soft);
  font-size: 11.5px;
  vertical-align: top;
  user-select: none;
}
.code {
  padding: 0 10px 0 6px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  tab-size: 4;
  vertical-align: top;
}
.sign {
  display: inline-block;
  width: 14px;
  color: var(--ink-soft);
  user-select: none;
}
.went {
  background: color-mix(in srgb, var(--rule) 45%, transparent);
  border-left: 3px double var(--ink-soft);
}
.came {
  background: color-mix(in srgb, var(--ochre-pale) 55%, transparent);
  border-left: 3px solid var(--ochre);
}
.went .mark {
  background: var(--rule);
  text-decoration: line-through;
  text-decoration-color: var(--ink-soft);
}
.came .mark {
  background: color-mix(in srgb, var(--ochre-mid) 60%, transparent);
}
.beside .none {
  background: repeating-linear-gradient(135deg, transparent 0 5px, var(--rule-soft) 5px 6px);
}
.hidden td {
  padding: 2px 14px;
  background: var(--hover);
  font: 12px/1.7 var(--sans);
}
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  padding: 10px 14px;
}
figure {
  margin: 0;
}
img {
  max-width: 100%;
  max-height: 420px;
  border: 1px solid var(--rule);
}
</style>
