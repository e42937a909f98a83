export { default as SetAside } from './SetAside.vue'
export { useMarks, type Marked } from './marks'
