import { VueQueryPlugin } from '@tanstack/vue-query';
import { mount, type MountingOptions } from '@vue/test-utils';
import { createPinia } from 'pinia';
import { type Component, computed } from 'vue';
import { formGround, type FormGround } from './kit/form.ts';

/** Vuetify's parts as what they hold: components are tested for what they do, not for how they look. */
const slotOnly = { template: '<div><slot name="activator" :props="{}" /><slot /></div>' };
export const stubs = {
  ...{ VBtn: { template: '<button type="button"><slot /></button>' }, VMenu: slotOnly, VList: slotOnly },
  ...{
    VCheckbox: true,
    VSelect: true,
    VAutocomplete: true,
    VTextField: true,
    VTextarea: true,
    VDatePicker: true,
    ...{ VListItem: true, VTab: true, VTabs: slotOnly },
    RouterLink: { template: '<a><slot /></a>' },
  },
};

/** A form around what is shown: `readonly`, or with faults. */
export function within(form: Partial<FormGround>): MountingOptions<never> {
  const ground = computed(() => ({ kind: 'thing', faults: {}, readonly: false, ...form }));
  return { global: { provide: { [formGround as symbol]: ground } } } as never;
}

/** A component on a page of its own. */
export function show<Props extends object>(
  component: Component,
  props: Props,
  more: MountingOptions<never> = {},
) {
  return mount(
    component as never,
    {
      ...(more as object),
      props: props as never,
      global: { ...more.global, plugins: [createPinia(), VueQueryPlugin], stubs },
      attachTo: document.body,
    } as never,
  );
}
