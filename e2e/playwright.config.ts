import { defineConfig } from "@playwright/test";

const flags = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

// Run by cargo (crates/server/tests/browser.rs), which starts the server and says where it is.
export default defineConfig({
  testDir: "tests",
  // files side by side; what kills the server comes last and alone
  workers: 2,
  timeout: 120_000,
  // machines of two cores run three servers and two browsers beside one another: what was only slow is tried once more, and told
  retries: 1,
  expect: { timeout: 30_000 },
  reporter: [["list"]],
  use: {
    baseURL: process.env.OAK_DRUM_ADDRESS,
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    launchOptions: { executablePath: process.env.OAK_DRUM_CHROMIUM ?? "/usr/bin/chromium", args: flags },
  },
  projects: [
    { name: "side-by-side", testMatch: /.*\.spec\.ts/, testIgnore: /outage\.spec\.ts/ },
    { name: "tests", testMatch: /outage\.spec\.ts/, dependencies: ["side-by-side"] },
    { name: "pictures", testMatch: /pictures\.ts/ },
    { name: "speed", testMatch: /speed\.ts/ },
  ],
});
