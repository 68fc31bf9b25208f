import { createTransport } from 'nodemailer';

export interface Letter {
  to: string;
  subject: string;
  text: string;
}

/**
 * The door to a post office: SMTP (RFC 5321). The stand-in mailbox speaks it, as would any other. Throws when the letter
 * was not taken.
 */
export interface Mail {
  send(letter: Letter): Promise<void>;
}

const patienceMs = 10_000;

/** @param address smtp:// or smtps://, with user and password where the post office asks for them */
export function smtpMail(address: string, from: string): Mail {
  const transport = createTransport({
    url: address,
    connectionTimeout: patienceMs,
    greetingTimeout: patienceMs,
    socketTimeout: patienceMs,
  });
  return {
    send: async ({ to, subject, text }) => {
      await transport.sendMail({ from, to, subject, text });
    },
  };
}

/** Where no post office is named. */
export const noMail: Mail = {
  send: () => Promise.reject(new Error('no post office is named')),
};
