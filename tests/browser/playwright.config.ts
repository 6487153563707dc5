import { defineConfig } from "@playwright/test";

const root = process.env.FROE_ROOT!;
const database = process.env.FROE_DATABASE!;
export const mailPage = "http://127.0.0.1:5493";

export default defineConfig({
  testDir: ".",
  workers: 1,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: "list",
  use: {
    // A button that never comes is said after a while, not when the whole test has run out of time.
    actionTimeout: 45_000,
    baseURL: "http://127.0.0.1:5491",
    viewport: { width: 1280, height: 800 },
    trace: "retain-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--disable-accelerated-2d-canvas"],
    },
  },
  webServer: [
    {
      command: `dotnet ${process.env.FROE_SINK} --smtp 5492 --folder ${root}/.data/test-mail --urls ${mailPage}`,
      url: mailPage,
    },
    {
      command: `dotnet ${process.env.FROE_SERVER} --urls http://127.0.0.1:5491`,
      cwd: `${root}/src/Froe.Server`,
      url: "http://127.0.0.1:5491/health/live",
      env: {
        Froe__Database: database,
        Froe__Web: `${root}/web/dist`,
        Froe__Reader: process.env.FROE_TOOL!,
        Froe__Demo: "true",
        Froe__FreeGuesses: "1000",
        Froe__MailHost: "127.0.0.1",
        Froe__MailPort: "5492",
        Froe__Address: "http://127.0.0.1:5491",
      },
    },
  ],
});
