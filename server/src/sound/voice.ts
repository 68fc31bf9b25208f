import { spawn } from 'node:child_process';

/**
 * The door to a voice: words in, a WAV file out. The one that comes with Night Bell is a program that works offline; one
 * of a provider would stand behind the same door. docs/voices.md tells what it must do.
 */
export interface Voice {
  /** Throws NoVoice with a sentence when the words cannot be spoken. */
  speak(words: string, language: string): Promise<Uint8Array>;
}

export class NoVoice extends Error {}

const patienceMs = 20_000;
/** Bytes of sound that are taken from the program: some five minutes. */
const mostBytes = 20 * 1024 * 1024;
const wordsAMinute = '150';

/** Debian's espeak-ng: plain, but there, and without a network. */
export const espeak: Voice = {
  speak: (words, language) =>
    new Promise((resolve, reject) => {
      const program = spawn(
        'espeak-ng',
        ['-v', language.toLowerCase(), '-s', wordsAMinute, '--stdin', '--stdout'],
        {
          stdio: ['pipe', 'pipe', 'ignore'],
        },
      );
      const parts: Buffer[] = [];
      let bytes = 0;
      const timer = setTimeout(() => program.kill('SIGKILL'), patienceMs);
      program.on('error', () => {
        clearTimeout(timer);
        reject(
          new NoVoice('The voice program espeak-ng is not there. Install it, or bring a sound as a file.'),
        );
      });
      program.stdout.on('data', (part: Buffer) => {
        bytes += part.length;
        if (bytes > mostBytes) program.kill('SIGKILL');
        else parts.push(part);
      });
      program.on('close', (code) => {
        clearTimeout(timer);
        if (code === 0 && bytes > 44) resolve(Buffer.concat(parts));
        else
          reject(
            new NoVoice(`The voice has nothing for ${language}. Choose another language, or bring a sound.`),
          );
      });
      // The program may have gone before it heard all.
      program.stdin.on('error', () => undefined);
      program.stdin.end(words);
    }),
};
