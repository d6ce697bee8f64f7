/** What of a mounted component is looked at here. */
interface Within {
  findAllComponents(by: { readonly name: string }): readonly unknown[];
}

interface Field {
  readonly vm: { readonly $attrs: Readonly<Record<string, unknown>>; $emit(event: string, value: unknown): void };
  props(): unknown;
}

/** Chooses in the field with such a label. @throws where there is none. */
export function choose(within: Within, label: string, value: string | number): void {
  fieldOf(within, label).vm.$emit('update:modelValue', value);
}

/** What can be chosen in the field with such a label, in words. @throws where there is none. */
export function choicesOf(within: Within, label: string): string[] {
  return (fieldOf(within, label).props() as { items: { title: string }[] }).items.map(({ title }) => title);
}

function fieldOf(within: Within, label: string): Field {
  const field = (within.findAllComponents({ name: 'VSelect' }) as readonly Field[]).find((c) => c.vm.$attrs['aria-label'] === label);
  if (field === undefined) throw new Error(`there is no choice ${label}`);
  return field;
}
