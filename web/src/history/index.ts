export { default as SurveyIt } from './SurveyIt.vue'
export { useCommit } from './useCommit'
