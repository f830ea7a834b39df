import { existsSync } from "node:fs";
import { Failure } from "../failure.ts";

/** Where a database is, and as whom it is asked. */
export interface DatabaseUrl {
  kind: "postgresql" | "mysql";
  user: string;
  password: string;
  host: string;
  port: number | null;
  database: string;
  /** The parameters after `?`, as they are written. */
  parameters: ReadonlyMap<string, string>;
}

/** Passwords that were met: no output may hold them. */
const secrets = new Set<string>();

const SECRET = /^(?:password|pass|pwd|sslpassword|passphrase|secret|token)$/i;

/** Whether a source is written as a URL. */
export function isUrl(source: string): boolean {
  return /^[a-z][a-z0-9+.-]*:\/\//i.test(source);
}

/** A source as messages show it: of a URL who and where, never the password or what stands after `?`. */
export function shownSource(source: string): string {
  if (!isUrl(source)) return source;
  const { scheme, user, place } = split(source);
  return `${scheme}://${user === "" ? "" : `${user}@`}${place.replace(/[?#].*$/s, "")}`;
}

/** A text without any password that was met. */
export function withoutSecrets(text: string): string {
  let clean = text.replace(/([a-z][a-z0-9+.-]*:\/\/[^\s:@/]*):[^\s]*@/gi, "$1@");
  for (const secret of secrets) if (secret.length > 2) clean = clean.split(secret).join("…");
  return clean;
}

/**
 * Takes a URL apart as people write it: a password may hold `@`, `/`, `:`, `#` and a lone percent sign as they are.
 *
 * @throws Failure with one line where it is none that can be used
 */
export function databaseUrl(source: string): DatabaseUrl {
  const { scheme, user, password, place } = split(source);
  const shown = shownSource(source);
  if (password !== "") secrets.add(password).add(decoded(password)).add(encodeURIComponent(password));
  const match = /^(\[[^\]]*\]|[^/?#:[\]]*)(?::([^/?#]*))?(?:\/([^?#]*))?(?:\?([^#]*))?(?:#.*)?$/s.exec(place);
  if (!match) throw new Failure(`${shown}: this is no database URL: scheme://user@host:port/database is expected`);
  const [, host, portText = "", path = "", query = ""] = match;
  const port = portText === "" ? null : Number(portText);
  if (port !== null && !(/^\d+$/.test(portText) && port >= 1 && port <= 65535))
    throw new Failure(`${shown}: ${portText} is no port; a port is a number from 1 to 65535`);
  const parameters = new Map<string, string>();
  for (const part of query.split("&")) {
    if (part === "") continue;
    const at = part.indexOf("=");
    const name = decoded(at < 0 ? part : part.slice(0, at));
    const value = at < 0 ? "" : decoded(part.slice(at + 1).replaceAll("+", " "));
    if (SECRET.test(name) && value !== "") secrets.add(value).add(part.slice(at + 1));
    parameters.set(name, value);
  }
  const kind = /^postgres(?:ql)?$/i.test(scheme) ? "postgresql" : "mysql";
  checkParameters(kind, parameters, shown);
  return {
    kind,
    user: decoded(user) || (parameters.get("user") ?? ""),
    password: decoded(password) || (parameters.get("password") ?? ""),
    host: decoded(host.replace(/^\[|\]$/g, "")),
    port,
    database: decoded(path),
    parameters,
  };
}

/** Scheme, user, password, and the rest from the host on. The last `@` that a host can follow ends the user's part. */
function split(source: string): { scheme: string; user: string; password: string; place: string } {
  const [, scheme, rest] = /^([a-z][a-z0-9+.-]*):\/\/(.*)$/is.exec(source) ?? ["", "", source];
  for (let at = rest.lastIndexOf("@"); at >= 0; at = at === 0 ? -1 : rest.lastIndexOf("@", at - 1)) {
    const who = rest.slice(0, at);
    // An @ in the value of a parameter: user@host/database?name=value@…
    if (/@[^/?#]*\/[^?#]*\?(?:[^=&]+=[^&]*&)*[^=&]+=[^&]*$/s.test(who) || /^[^@:]*\/[^?#]*\?[^=]+=/s.test(who))
      continue;
    const colon = who.indexOf(":");
    return {
      scheme,
      user: colon < 0 ? who : who.slice(0, colon),
      password: colon < 0 ? "" : who.slice(colon + 1),
      place: rest.slice(at + 1),
    };
  }
  return { scheme, user: "", password: "", place: rest };
}

/** A text with its percent signs resolved; one that means nothing stays as it is. */
function decoded(text: string): string {
  return text.replace(/(?:%[0-9a-f]{2})+/gi, (run) => {
    try {
      return decodeURIComponent(run);
    } catch {
      return run;
    }
  });
}

const SSL_MODES = ["disable", "allow", "prefer", "require", "verify-ca", "verify-full", "no-verify"];
const SSL_VALUES = ["true", "false", "1", "0", "no-verify"];

/** The words that parameters of a URL may have, by the client that is given them. */
const WORDS: Readonly<Record<DatabaseUrl["kind"], Readonly<Record<string, readonly string[]>>>> = {
  postgresql: { ssl: SSL_VALUES, sslmode: SSL_MODES },
  mysql: { ssl: ["true", "false", "1", "0"] },
};

/** The parameters that name files. */
const FILES: Readonly<Record<DatabaseUrl["kind"], readonly string[]>> = {
  postgresql: ["sslcert", "sslkey", "sslrootcert"],
  mysql: [],
};

function checkParameters(kind: DatabaseUrl["kind"], parameters: ReadonlyMap<string, string>, shown: string): void {
  for (const [name, words] of Object.entries(WORDS[kind])) {
    const value = parameters.get(name);
    if (value !== undefined && !words.includes(value))
      throw new Failure(`${shown}: ${name}=${value} is not known; it is one of ${words.join(", ")}`);
  }
  for (const name of FILES[kind]) {
    const file = parameters.get(name);
    if (file !== undefined && file !== "system" && !existsSync(file))
      throw new Failure(`${shown}: ${name}: there is no file ${file}`);
  }
}
