import { nextExtension } from './extension.ts';
import { freeLogin } from './login.ts';

/**
 * Logins and extensions proposed to new people, one after the other: never one that is taken or was proposed before;
 * extensions follow those of the same team. Keys of teams are the caller's; the empty key holds everybody.
 */
export class Proposals {
  private readonly logins: Set<string>;
  private readonly extensions: Set<string>;
  private readonly byTeam: Map<string, string[]>;

  constructor(
    logins: Iterable<string>,
    extensions: Iterable<string>,
    byTeam: ReadonlyMap<string, readonly string[]>,
  ) {
    this.logins = new Set(logins);
    this.extensions = new Set(extensions);
    this.byTeam = new Map([...byTeam].map(([team, digits]) => [team, [...digits]]));
  }

  /** A free login for a name; taken from now on. */
  login(name: string): string {
    const login = freeLogin(name, this.logins);
    this.logins.add(login);
    return login;
  }

  /** A free login, left free: for a sentence that says what could be typed. */
  freeLogin(name: string): string {
    return freeLogin(name, this.logins);
  }

  /** The next extension behind the team's; taken from now on. */
  extension(team: string): string {
    const extension = nextExtension(this.extensions, this.byTeam.get(team) ?? this.byTeam.get('') ?? []);
    this.takeExtension(team, extension);
    return extension;
  }

  /** The next free extension behind `digits`, left free. */
  freeExtension(digits: string): string {
    return nextExtension(this.extensions, [digits]);
  }

  /** Somebody asked for this one: nobody else is proposed it. */
  reserve(wanted: { login?: string; extension?: string }): void {
    if (wanted.login !== undefined) this.logins.add(wanted.login);
    if (wanted.extension !== undefined) this.extensions.add(wanted.extension);
  }

  /** Somebody of this team gets these digits: the next of the team come behind. */
  takeExtension(team: string, digits: string): void {
    this.extensions.add(digits);
    for (const key of new Set(['', team])) {
      const list = this.byTeam.get(key) ?? [];
      list.push(digits);
      this.byTeam.set(key, list);
    }
  }
}
