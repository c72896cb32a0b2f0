import { createSystem, defaultBaseConfig, defineConfig } from "@chakra-ui/react";

const pair = (base: string, _dark: string) => ({ value: { base, _dark } });

/** After our own letters: emoji, and the scripts of scripts.ts. */
const REST = [
  "Noto Color Emoji",
  ...["Arabic", "Bengali", "Devanagari", "Ethiopic", "Gujarati", "Hebrew", "KR", "SC", "Tamil", "Telugu", "Thai"].map(
    (script) => `Noto Sans ${script}`,
  ),
]
  .map((family) => `"${family}"`)
  .join(", ");

/** The colours of docs/look: paper and ink. `maizeInk` is maize dark enough to read text in. */
const config = defineConfig({
  cssVarsPrefix: "m",
  preflight: true,
  globalCss: {
    "html, body, #root": { minHeight: "100%", background: "paper", color: "ink" },
    body: { fontFamily: "body", fontSize: "14px", lineHeight: "20px", fontVariantNumeric: "lining-nums" },
    html: { colorScheme: "light" },
    "html.dark": { colorScheme: "dark" },
    "h1, h2, h3": { fontFamily: "heading", fontWeight: "500", letterSpacing: "-0.01em" },
    ":focus-visible": { outline: "2px solid", outlineColor: "anil", outlineOffset: "2px" },
  },
  theme: {
    breakpoints: { sm: "480px", md: "768px", lg: "1024px" },
    tokens: {
      fonts: {
        body: { value: `"Instrument Sans Variable", ${REST}, sans-serif` },
        heading: { value: `"Fraunces Variable", ${REST}, serif` },
      },
    },
    semanticTokens: {
      colors: {
        paper: pair("#FBF7F0", "#1B1A18"),
        card: pair("#FFFFFF", "#262421"),
        rule: pair("#E3DACB", "#3A3631"),
        wash: pair("#F3EBDD", "#211F1C"),
        ink: pair("#23201C", "#F1EBE1"),
        faded: pair("#6A6156", "#A89E90"),
        pimenton: pair("#A8321A", "#E8785C"),
        maize: pair("#B57A06", "#E7B23F"),
        maizeInk: pair("#7A5200", "#E7B23F"),
        epazote: pair("#2F6B4A", "#7CBF98"),
        anil: pair("#2F4A7A", "#8FADE0"),
        plum: pair("#6B3A66", "#CFA0CA"),
        brick: pair("#8A3E2C", "#E09A87"),
        moss: pair("#5A6B1E", "#B9CC78"),
        slate: pair("#4A5560", "#A9B6C2"),
        rose: pair("#A13A5C", "#E996B2"),
        teal: pair("#1E6A70", "#7CC4CA"),
        ochre: pair("#8C5A12", "#DDB06A"),
        smoke: pair("#6A6156", "#A89E90"),
      },
    },
  },
});

export const system = createSystem(defaultBaseConfig, config);
