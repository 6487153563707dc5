import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { createWriteStream } from "node:fs";
import { mkdir, rm } from "node:fs/promises";
import { createServer } from "node:net";
import { test as base } from "@playwright/test";

export { expect, type Page } from "@playwright/test";

/** What one worker has for itself: a server, a stand-in for mail, and a database copied from the one with the demo. */
export interface House {
  url: string;
  mailPage: string;
  /** Rows of a query, straight from the database, columns parted by spaces. */
  rows(sql: string): string[];
  /** Runs the command line against this database. */
  froe(...args: string[]): string;
}

const root = process.env.FROE_ROOT!;

/** A connection string's parts. */
const partsOf = (connection: string) =>
  Object.fromEntries(connection.split(";").map((p) => p.split("=") as [string, string]));

function psql(connection: string, ...args: string[]): string {
  const c = partsOf(connection);
  return execFileSync("psql", ["-h", c.Host!, "-p", c.Port!, "-U", c.Username!, "-d", c.Database!, "-qAt", ...args], {
    encoding: "utf8",
    env: { ...process.env, PGPASSWORD: c.Password, PGOPTIONS: "-c client_min_messages=error" },
  });
}

/** A port that nobody listens on. */
const freePort = () =>
  new Promise<number>((resolve, reject) => {
    const probe = createServer().once("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });

/** Whether the address answers before the child behind it ends: as long as it runs, it has its time. */
async function answers(url: string, child: ChildProcess) {
  while (child.exitCode === null && child.signalCode === null) {
    const fine = await fetch(url, { signal: AbortSignal.timeout(10_000) }).then(
      (a) => a.ok,
      () => false,
    );
    if (fine) return true;
    await new Promise((done) => setTimeout(done, 200));
  }
  return false;
}

export const test = base.extend<{ closed: void }, { house: House }>({
  // Windows that a test opened would stay, hear of all that later tests do, and draw it: each is slower than the one before.
  closed: [
    async ({ browser }, use) => {
      await use();
      await Promise.all(browser.contexts().map((c) => c.close()));
    },
    { auto: true },
  ],
  house: [
    async ({}, use, worker) => {
      const name = `froe_browser_${worker.workerIndex}`;
      psql(process.env.FROE_SUPER!, "-c", `DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
      psql(process.env.FROE_SUPER!, "-c", `CREATE DATABASE ${name} TEMPLATE froe_browser OWNER froe_owner`);
      const database = process.env.FROE_DATABASE!.replace("Database=froe_browser;", `Database=${name};`);
      const folder = `${root}/.data/browser-${worker.workerIndex}`;
      await rm(folder, { recursive: true, force: true });
      await mkdir(folder, { recursive: true });
      const children: ChildProcess[] = [];
      const start = (what: string, args: string[], cwd: string, env: Record<string, string> = {}) => {
        const child = spawn("dotnet", args, {
          cwd,
          env: { ...process.env, ...env },
          stdio: ["ignore", "pipe", "pipe"],
        });
        const log = createWriteStream(`${folder}/${what}.log`);
        child.stdout!.pipe(log, { end: false });
        child.stderr!.pipe(log, { end: false });
        children.push(child);
        return child;
      };
      // A port that was free may be taken before its server has it, by anybody's connection: then others are taken.
      const raised = async (start: () => Promise<{ url: string; child: ChildProcess }>) => {
        for (let i = 0; i < 5; i++) {
          const { url, child } = await start();
          if (await answers(url, child)) return new URL(url).origin;
        }
        throw new Error(`A server of the tests ends as soon as it starts: its words are in ${folder}.`);
      };
      try {
        let smtp = 0;
        const mailPage = await raised(async () => {
          smtp = await freePort();
          const url = `http://127.0.0.1:${await freePort()}`;
          const args = [process.env.FROE_SINK!, "--smtp", `${smtp}`, "--folder", `${folder}/mail`, "--urls", url];
          return { url, child: start("mail", args, folder) };
        });
        const url = await raised(async () => {
          const url = `http://127.0.0.1:${await freePort()}`;
          const child = start("server", [process.env.FROE_SERVER!, "--urls", url], `${root}/src/Froe.Server`, {
            Froe__Database: database,
            Froe__Web: `${root}/web/dist`,
            Froe__Reader: process.env.FROE_TOOL!,
            Froe__Demo: "true",
            Froe__FreeGuesses: "1000",
            // The demo's passwords guard nothing, and are signed with often.
            Froe__PasswordRounds: "1000",
            Froe__MailHost: "127.0.0.1",
            Froe__MailPort: `${smtp}`,
            Froe__Address: url,
          });
          return { url: `${url}/health/live`, child };
        });
        await use({
          url,
          mailPage,
          rows: (sql) => psql(database, "-F", " ", "-c", sql).trim().split("\n").filter(Boolean),
          froe: (...args) =>
            execFileSync("dotnet", [process.env.FROE_TOOL!, ...args], {
              encoding: "utf8",
              // So little is done that its loops would be well compiled for nothing.
              env: { ...process.env, FROE_DATABASE: database, DOTNET_TC_CallCountingDelayMs: "64" },
            }),
        });
      } finally {
        for (const child of children) child.kill();
      }
    },
    { scope: "worker", timeout: 300_000 },
  ],
  baseURL: ({ house }, use) => use(house.url),
});
