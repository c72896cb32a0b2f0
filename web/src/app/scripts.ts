/**
 * Letters of other scripts, for machines without fonts of their own. Asked for after the page is drawn; the
 * browser then fetches only the parts whose letters are on the page.
 */
import "@fontsource/noto-sans-arabic/400.css";
import "@fontsource/noto-sans-bengali/400.css";
import "@fontsource/noto-sans-devanagari/400.css";
import "@fontsource/noto-sans-ethiopic/400.css";
import "@fontsource/noto-sans-gujarati/400.css";
import "@fontsource/noto-sans-hebrew/400.css";
import "@fontsource/noto-sans-kr/400.css";
import "@fontsource/noto-sans-sc/400.css";
import "@fontsource/noto-sans-tamil/400.css";
import "@fontsource/noto-sans-telugu/400.css";
import "@fontsource/noto-sans-thai/400.css";
