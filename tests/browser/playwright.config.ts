import { defineConfig } from "@playwright/test";

// Each worker has a server and a database of its own (house.ts).
export default defineConfig({
  testDir: ".",
  workers: 2,
  // A busy machine has its time: nothing here says how soon, only that it comes.
  timeout: 420_000,
  expect: { timeout: 45_000 },
  reporter: "list",
  // The longest go first, so that no worker waits for them at the end.
  projects: [
    { name: "long", testMatch: /(story|walk|screens)\.spec\.ts/ },
    { name: "short", testIgnore: /(story|walk|screens)\.spec\.ts/ },
  ],
  use: {
    // A button that never comes is said after a while, not when the whole test has run out of time.
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    // What was done and asked, without a film of it: filming costs as much as the tests.
    // Where nobody will open it, not even that.
    trace: process.env.CI ? "off" : { mode: "retain-on-failure", screenshots: false, snapshots: false },
    screenshot: "only-on-failure",
    launchOptions: {
      // Chromium without a window: it draws what the other draws, with a fifth less work.
      executablePath: "/usr/bin/chromium-headless-shell",
      args: [
        "--use-angle=swiftshader",
        "--enable-unsafe-swiftshader",
        "--disable-accelerated-2d-canvas",
        "--disable-gpu-compositing",
      ],
    },
  },
});
