import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { BuildPage } from "./pages/BuildPage";
import { HelperPage } from "./pages/listen/HelperPage";
import { ListenerPage } from "./pages/listen/ListenerPage";
import { WorkshopPage } from "./pages/WorkshopPage";
import { TermsPage } from "./pages/TermsPage";
import { Broken } from "./pages/Broken";
import { Lost } from "./pages/Lost";
import "./style.css";

const client = new QueryClient({
  defaultOptions: { queries: { retry: 3, retryDelay: 800, refetchOnWindowFocus: false } },
});
const router = createBrowserRouter([
  { path: "/", element: <WorkshopPage />, errorElement: <Broken /> },
  { path: "/builds/:id", element: <BuildPage />, errorElement: <Broken /> },
  { path: "/builds/:id/:station", element: <BuildPage />, errorElement: <Broken /> },
  { path: "/builds/:id/:station/:view", element: <BuildPage />, errorElement: <Broken /> },
  { path: "/listen/:code", element: <ListenerPage />, errorElement: <Broken /> },
  { path: "/listen/:code/helper/:key", element: <HelperPage />, errorElement: <Broken /> },
  { path: "/terms", element: <TermsPage />, errorElement: <Broken /> },
  { path: "*", element: <Lost /> },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Tooltip.Provider delayDuration={500}>
          <RouterProvider router={router} />
        </Tooltip.Provider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
