import { defineComponent, h, ref } from 'vue';

interface Choice {
  value: unknown;
  title: string;
}
interface ChoiceProps {
  itemTitle?: string;
  itemValue?: string;
  returnObject?: boolean | '';
}
function choiceOf(item: unknown, { itemTitle, itemValue, returnObject }: ChoiceProps): Choice {
  if (item === null || typeof item !== 'object') return { value: item, title: String(item) };
  const parts = item as Record<string, unknown>;
  const whole = returnObject === true || returnObject === '';
  return { value: whole ? item : parts[itemValue ?? 'value'], title: String(parts[itemTitle ?? 'title']) };
}

/** Fields of the interface as the browser's own, which a test can type into and choose from by what is read. */
const field = (tag: 'input' | 'textarea') =>
  defineComponent({
    props: ['modelValue', 'label', 'errorMessages', 'hideDetails', 'autofocus'],
    emits: ['update:modelValue'],
    setup: (props, { emit, attrs }) => {
      return () =>
        h(tag, {
          ...(props.label === undefined ? {} : { 'aria-label': props.label as string }),
          ...attrs,
          value: props.modelValue as string,
          onInput: (event: Event) => emit('update:modelValue', (event.target as HTMLInputElement).value),
        });
    },
  });
const choices = defineComponent({
  props: [
    'modelValue',
    'items',
    'label',
    'multiple',
    'itemTitle',
    'itemValue',
    'returnObject',
    'search',
    'menu',
  ],
  emits: ['update:modelValue', 'update:search', 'update:menu'],
  setup: (props, { emit, expose }) => {
    expose({ focus: () => undefined });
    const isMany = () => props.multiple === true || props.multiple === '';
    const all = () => ((props.items ?? []) as unknown[]).map((item) => choiceOf(item, props as ChoiceProps));
    return () =>
      h(
        'select',
        {
          ...(props.label === undefined ? {} : { 'aria-label': props.label as string }),
          value: String(all().findIndex(({ value }) => value === props.modelValue)),
          onChange: (event: Event) => {
            const chosen = all()[Number((event.target as HTMLSelectElement).value)]?.value;
            const before = (props.modelValue ?? []) as unknown[];
            emit('update:modelValue', isMany() ? [...before, chosen] : chosen);
          },
        },
        all().map(({ title }, index) => h('option', { value: String(index) }, title)),
      );
  },
});
const box = defineComponent({
  props: ['modelValue', 'label'],
  emits: ['update:modelValue'],
  setup: (props, { emit }) => {
    return () =>
      h('label', [
        h('input', {
          type: 'checkbox',
          checked: props.modelValue === true,
          onChange: (event: Event) => emit('update:modelValue', (event.target as HTMLInputElement).checked),
        }),
        props.label as string,
      ]);
  },
});
const press = defineComponent({
  props: ['loading', 'text', 'variant', 'color'],
  setup: (props, { slots }) => {
    return () => h('button', { type: 'button' }, slots.default?.() ?? (props.text as string));
  },
});
const held = defineComponent({
  setup: (_, { slots }) => {
    return () => h('div', [slots.activator?.({ props: {} }), slots.default?.()]);
  },
});
/** What it holds is there once it was opened. */
const menu = defineComponent({
  props: ['modelValue', 'closeOnContentClick', 'location'],
  emits: ['update:modelValue'],
  setup: (props, { slots, emit }) => {
    const opened = ref(false);
    const turn = () => {
      opened.value = !opened.value;
      emit('update:modelValue', opened.value);
    };
    const isOpen = () => opened.value || props.modelValue === true;
    return () =>
      h('div', [slots.activator?.({ props: { onClick: turn } }), isOpen() ? slots.default?.() : null]);
  },
});
const tabs = defineComponent({
  props: ['modelValue'],
  emits: ['update:modelValue'],
  setup: (_, { slots, emit }) => {
    const chosen = (event: Event) =>
      [...(event.currentTarget as HTMLElement).children].indexOf(event.target as HTMLElement);
    return () =>
      h(
        'div',
        { role: 'tablist', onClick: (event: Event) => emit('update:modelValue', chosen(event)) },
        slots.default?.(),
      );
  },
});
export const nativeFields = {
  ...{ VTextField: field('input'), VTextarea: field('textarea'), VCheckbox: box, VBtn: press },
  ...{ VSelect: choices, VAutocomplete: choices, VMenu: menu, VList: held, VDialog: held },
  ...{ VTabs: tabs, VTab: press, VListItem: press, VDatePicker: true },
};
