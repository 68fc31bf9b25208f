import { computed, inject, type InjectionKey, provide, type Ref } from 'vue';

/** What the lines of a form need of it: whose it is, where something is wrong, whether anything may be changed. */
export interface FormGround {
  /** 'queue': begins the ids of its fields. */
  readonly kind: string;
  readonly faults: Record<string, string>;
  readonly readonly: boolean;
}

/** Where a form's lines find it. */
export const formGround: InjectionKey<Readonly<Ref<FormGround>>> = Symbol('form');

export function provideForm(now: () => FormGround): void {
  provide(formGround, computed(now));
}

/** The form that a line stands in. */
export function useForm(): Readonly<Ref<FormGround>> {
  return inject(
    formGround,
    () => computed<FormGround>(() => ({ kind: 'form', faults: {}, readonly: false })),
    true,
  );
}

/** The sentence of the first of these fields that is wrong; of a list's entries too. */
export function faultOf(faults: Record<string, string>, fields: readonly string[]): string | undefined {
  for (const field of fields) {
    const path = Object.keys(faults).find((each) => each === `/${field}` || each.startsWith(`/${field}/`));
    if (path !== undefined) return faults[path];
  }
  return undefined;
}
