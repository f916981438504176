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
  workers: 1,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  reporter: [["list"]],
  use: {
    baseURL: process.env.OAK_DRUM_ADDRESS,
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    launchOptions: { executablePath: process.env.OAK_DRUM_CHROMIUM ?? "/usr/bin/chromium", args: flags },
  },
  projects: [
    { name: "tests", testMatch: /.*\.spec\.ts/ },
    { name: "pictures", testMatch: /pictures\.ts/ },
    { name: "speed", testMatch: /speed\.ts/ },
  ],
});
