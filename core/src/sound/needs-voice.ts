/** Of a prompt: its sound is missing, or a voice said other words than are written now. Nothing written needs none. */
export function needsVoice({
  retired,
  words,
  sound,
}: {
  retired: boolean;
  words: string;
  sound: { current: boolean } | null;
}): boolean {
  return !retired && words.trim() !== '' && (sound === null || !sound.current);
}
