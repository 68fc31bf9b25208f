import { onBeforeUnmount, ref } from 'vue';
import type { StepSound } from '@night-bell/core/story/step';

const addressOf = ({ promptId, words, language }: StepSound) =>
  promptId !== null
    ? `/api/prompts/${promptId}/heard`
    : `/api/spoken-words?${new URLSearchParams({ words, language: language ?? 'en' }).toString()}`;

/** What was said in a step, heard one after the other; one step at a time. */
export function useHearing() {
  const audio = new Audio();
  /** The step that is heard. */
  const heard = ref<number | null>(null);
  let left: StepSound[] = [];

  function next(): void {
    const sound = left.shift();
    if (sound === undefined) return stop();
    audio.src = addressOf(sound);
    // What cannot be played is passed over: its words stand beside it.
    audio.play().catch(next);
  }
  function stop(): void {
    audio.pause();
    left = [];
    heard.value = null;
  }
  audio.addEventListener('ended', next);
  onBeforeUnmount(stop);

  return {
    heard,
    toggle(step: number, sounds: readonly StepSound[]): void {
      const again = heard.value === step;
      stop();
      if (again) return;
      left = [...sounds];
      heard.value = step;
      next();
    },
  };
}
