export { default as Facets } from './Facets.vue'
export { default as Views } from './Views.vue'
export { narrowedBy, toggled, valuesOf } from './address'
