/** What a bot is asked in a turn, and what it answers (docs/bots.md). */
export interface Turn {
  turn: number;
  said: string;
  language: string | null;
  facts: Record<string, string>;
}
export interface Said {
  say: string;
  then: 'listen' | 'done' | 'handOver';
  facts?: Record<string, string>;
  language?: string;
}

interface Crossing {
  heard: RegExp;
  times: string;
}

const crossings: Readonly<Record<string, Crossing>> = {
  'Gull Harbour': { heard: /gull|harbou?r/i, times: '7:10, 9:40, 12:15 and 16:30' },
  Stornay: { heard: /storna/i, times: '8:05, 11:20 and 17:45' },
  'Pell Island': { heard: /pell|island/i, times: '10:00 and 15:00' },
};
const wantsPerson = /person|agent|human|somebody|someone|quelqu|personne/i;
const no = /\b(no|nothing|that'?s all|non|merci)\b/i;
const names = Object.keys(crossings);

const english = {
  hello: `This is the sailing desk. Which crossing do you mean: ${names.join(', ')}?`,
  times: (name: string, times: string) => `Boats to ${name} leave at ${times}. Is there another crossing?`,
  again: 'I did not catch that. Say the name of a crossing, or say person.',
  bye: 'Fair winds.',
  over: 'I hand you to a colleague.',
};
const french: typeof english = {
  hello: `Ici les horaires. Quelle traversée cherchez-vous : ${names.join(', ')} ?`,
  times: (name, times) => `Les bateaux pour ${name} partent à ${times}. Une autre traversée ?`,
  again: 'Je n’ai pas compris. Dites le nom d’une traversée, ou dites quelqu’un.',
  bye: 'Bon voyage.',
  over: 'Je vous passe un collègue.',
};

/** A bot that answers sailing times. It keeps nothing: what it needs of before comes with each turn. */
export function talk({ turn, said, language, facts }: Turn): Said {
  const words = language?.startsWith('fr') === true || /bonjour|traversée/i.test(said) ? french : english;
  const spoken = words === french ? { language: 'fr' } : {};
  if (turn === 1) return { say: words.hello, then: 'listen', ...spoken };
  if (wantsPerson.test(said)) return { say: words.over, then: 'handOver', facts: { wanted: 'a person' } };
  const found = Object.entries(crossings).find(([, { heard }]) => heard.test(said));
  if (found !== undefined) {
    const [name, { times }] = found;
    return {
      say: words.times(name, times),
      then: 'listen',
      facts: { crossing: name, misheard: '0' },
      ...spoken,
    };
  }
  if (no.test(said) && facts.crossing !== undefined) return { say: words.bye, then: 'done' };
  const misheard = Number(facts.misheard ?? 0) + 1;
  if (misheard > 2) return { say: words.over, then: 'handOver', facts: { wanted: 'not understood' } };
  return { say: words.again, then: 'listen', facts: { misheard: String(misheard) }, ...spoken };
}
