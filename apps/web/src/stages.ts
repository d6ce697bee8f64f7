/** The stages of a job in the order of the work; `name` is the route's, `label` what people read. */
export const STAGES = [
  { name: 'take-in', label: 'Take in' },
  { name: 'audit', label: 'Audit' },
  { name: 'rework', label: 'Rework' },
  { name: 'compare', label: 'Compare' },
  { name: 'release', label: 'Release' },
  { name: 'sew-outs', label: 'Sew-outs' },
  { name: 'layout', label: 'Layout' },
] as const;
