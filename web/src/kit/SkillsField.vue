<script setup lang="ts" generic="Entry extends { skillId: string }">
import { computed, ref } from 'vue';
import { api, ask } from '../api/client.ts';
import { useNotices } from '../shell/notices.ts';
import { useSetUp } from '../shell/set-up.ts';
import AddField from './AddField.vue';
import { faultOf, useForm } from './form.ts';
import SentenceField from './SentenceField.vue';
import Shape from './Shape.vue';
import { making } from './making.ts';
import TakeOut from './TakeOut.vue';

/** Skills with a level each: what a person can do, or what a queue asks for at least. */
const props = defineProps<{
  /** 'level' or 'minimum': what the number is, in the form and to those who hear it. */
  figure: 'level' | 'minimum';
  none: string;
}>();
const model = defineModel<Entry[]>({ required: true });
const form = useForm();
const setUp = useSetUp();
const notices = useNotices();
const search = ref('');

const typed = computed(() => search.value.trim());
const items = computed(() => {
  const free = setUp.skills.filter(
    (skill) => !skill.retired && !model.value.some((entry) => entry.skillId === skill.id),
  );
  const known = setUp.skills.some((skill) => skill.name.toLowerCase() === typed.value.toLowerCase());
  return [
    ...free.map((skill) => ({ value: skill.id, title: skill.name })),
    ...(typed.value === '' || known
      ? []
      : [{ value: 'make', title: typed.value, props: { subtitle: 'Make this skill' } }]),
  ];
});

const usual = 3;
function add(skillId: string): void {
  const more = props.figure === 'minimum' ? { relaxes: [] } : {};
  if (skillId === 'make') void making(make());
  else model.value = [...model.value, { skillId, [props.figure]: usual, ...more } as unknown as Entry];
}

async function make(): Promise<void> {
  try {
    const skill = await ask(api.POST('/api/skills', { body: { name: typed.value } }));
    await setUp.load();
    add(skill.id);
  } catch (error) {
    notices.fail(error);
  }
}

const faultIn = (index: number) => faultOf(form.value.faults, [`skills/${index}`]);
const levelOf = (entry: Entry) => Number((entry as Record<string, unknown>)[props.figure]);
/** Levels that are enough later in a caller's wait, where this is what a queue asks for. */
interface Step {
  afterSeconds: number;
  minimum: number;
}
const stepsOf = (entry: Entry) => (entry as { relaxes?: Step[] }).relaxes ?? [];
function setSteps(index: number, relaxes: Step[]): void {
  model.value = model.value.map((entry, at) => (at === index ? { ...entry, relaxes } : entry));
}
function giveWay(index: number, entry: Entry): void {
  const last = stepsOf(entry).at(-1);
  const step = {
    afterSeconds: (last?.afterSeconds ?? 0) + 40,
    minimum: Math.max(0, (last?.minimum ?? levelOf(entry)) - 1),
  };
  setSteps(index, [...stepsOf(entry), step]);
}
function setStep(index: number, entry: Entry, at: number, change: object): void {
  setSteps(
    index,
    stepsOf(entry).map((step, i) => (i === at ? { ...step, ...change } : step)),
  );
}
const mayGiveWay = (entry: Entry) =>
  props.figure === 'minimum' &&
  !form.value.readonly &&
  (stepsOf(entry).at(-1)?.minimum ?? levelOf(entry)) > 0;

function set(index: number, level: number): void {
  model.value = model.value.map((entry, at) => (at === index ? { ...entry, [props.figure]: level } : entry));
}
</script>

<template>
  <div>
    <ul>
      <li v-for="(entry, index) in model" :key="entry.skillId">
        <span>{{ setUp.nameOf(entry.skillId) }}</span>
        <span
          class="levels"
          role="radiogroup"
          :aria-label="`${figure === 'level' ? 'Level' : 'Minimum'} of ${setUp.nameOf(entry.skillId)}`"
        >
          <button
            v-for="level in 5"
            :key="level"
            type="button"
            role="radio"
            :aria-checked="levelOf(entry) === level"
            :aria-label="String(level)"
            :class="{ on: level <= levelOf(entry) }"
            :disabled="form.readonly"
            @click="set(index, level)"
          ></button>
        </span>
        <span class="mono second">{{ levelOf(entry) }}</span>
        <TakeOut
          v-if="!form.readonly"
          :what="`Take ${setUp.nameOf(entry.skillId)} out`"
          @click="model = model.filter((_, at) => at !== index)"
        />
        <p v-for="(step, at) in stepsOf(entry)" :key="at" class="step small second">
          from
          <SentenceField
            :model-value="step.afterSeconds"
            :field="`skills/${index}/relaxes/${at}/afterSeconds`"
            :label="`Seconds of waiting after which less ${setUp.nameOf(entry.skillId)} is enough`"
            :size="3"
            @update:model-value="setStep(index, entry, at, { afterSeconds: $event })"
          />
          s of waiting
          <SentenceField
            :model-value="step.minimum"
            :field="`skills/${index}/relaxes/${at}/minimum`"
            :label="`Level of ${setUp.nameOf(entry.skillId)} that is enough then; 0 for none`"
            :size="1"
            @update:model-value="setStep(index, entry, at, { minimum: $event })"
          />
          {{ step.minimum === 0 ? 'is enough: no longer asked for' : 'is enough' }}
          <TakeOut
            v-if="!form.readonly"
            :what="`Take out what is enough from ${step.afterSeconds} s on`"
            @click="
              setSteps(
                index,
                stepsOf(entry).filter((_, i) => i !== at),
              )
            "
          />
        </p>
        <p v-if="faultIn(index)" class="step fault-text small" role="alert">
          <Shape name="fault" /> {{ faultIn(index) }}
        </p>
        <p v-if="mayGiveWay(entry)" class="step">
          <button class="link small" type="button" @click="giveWay(index, entry)">
            {{ stepsOf(entry).length === 0 ? 'Less is enough later' : 'And later still less' }}
          </button>
        </p>
      </li>
    </ul>
    <p v-if="model.length === 0" class="second">{{ none }}</p>
    <AddField v-if="!form.readonly" v-model:search="search" :items="items" label="Add a skill" @add="add" />
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr auto 12px 20px;
  gap: 10px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 26px;
}
.step button.link {
  min-height: 24px;
}
.step {
  grid-column: 1 / -1;
  margin: 0;
  padding-left: 12px;
  line-height: 26px;
}
.levels {
  display: flex;
  gap: 3px;
}
.levels button {
  width: 16px;
  height: 10px;
  padding: 0;
  border: 1px solid var(--rule2);
  background: none;
  cursor: pointer;
}
.levels button.on {
  background: var(--brass);
  border-color: var(--brass);
}
</style>
