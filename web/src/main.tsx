import "@fontsource-variable/fraunces/wght.css";
import "@fontsource-variable/fraunces/wght-italic.css";
import "@fontsource-variable/instrument-sans/wght.css";
import "@fontsource/noto-color-emoji/400.css";
import "@/app/base.css";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Problem } from "@/api/client";
import { router } from "@/app/router";
import { applyScheme } from "@/app/scheme";
import { system } from "@/app/theme";

applyScheme();
void import("@/app/scripts");

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      retry: (times, error) => times < 2 && (!(error instanceof Problem) || error.status === 0 || error.status >= 500),
    },
  },
});

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <ChakraProvider value={system}>
        <QueryClientProvider client={queries}>
          <RouterProvider router={router} />
        </QueryClientProvider>
      </ChakraProvider>
    </StrictMode>,
  );
