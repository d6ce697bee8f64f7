import type { VueWrapper } from '@vue/test-utils';

/** Chooses in the field with such a label. @throws where there is none. */
export function choose(within: VueWrapper, label: string, value: string | number): void {
  fieldOf(within, label).vm.$emit('update:modelValue', value);
}

/** What can be chosen in the field with such a label, in words. @throws where there is none. */
export function choicesOf(within: VueWrapper, label: string): string[] {
  return (fieldOf(within, label).props() as { items: { title: string }[] }).items.map(({ title }) => title);
}

function fieldOf(within: VueWrapper, label: string): VueWrapper {
  const field = within.findAllComponents({ name: 'VSelect' }).find((c) => c.vm.$attrs['aria-label'] === label);
  if (field === undefined) throw new Error(`there is no choice ${label}`);
  return field;
}
