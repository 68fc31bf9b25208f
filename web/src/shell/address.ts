import { computed, type WritableComputedRef } from 'vue';
import { type LocationQueryRaw, useRoute, useRouter } from 'vue-router';

/**
 * What a list is narrowed to and sorted by stands in the address: a link shows the same rows, and going back brings
 * them again. An empty value is left out.
 */
export function useAddress() {
  const route = useRoute();
  const router = useRouter();

  function part(key: string): WritableComputedRef<string> {
    return computed({
      get: () => {
        const value = route.query[key];
        return typeof value === 'string' ? value : '';
      },
      set: (value) => {
        const query = { ...route.query, [key]: value };
        if (value === '') delete query[key];
        void router.replace({ path: route.path, query });
      },
    });
  }

  /** Null for no narrowing, as select fields have it. */
  function choice(key: string): WritableComputedRef<string | null> {
    const text = part(key);
    return computed({ get: () => text.value || null, set: (value) => (text.value = value ?? '') });
  }

  function flag(key: string): WritableComputedRef<boolean> {
    const text = part(key);
    return computed({ get: () => text.value === 'yes', set: (value) => (text.value = value ? 'yes' : '') });
  }

  /** Several parts at once: two settings one after the other would each begin from the address before. */
  function put(parts: Readonly<Record<string, string>>): void {
    const query: Record<string, unknown> = { ...route.query, ...parts };
    for (const [key, value] of Object.entries(parts)) if (value === '') delete query[key];
    void router.replace({ path: route.path, query: query as LocationQueryRaw });
  }

  return { part, choice, flag, put };
}
