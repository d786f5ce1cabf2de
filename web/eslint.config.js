import { readdirSync } from "node:fs";

import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Who may import whom: screens use the views, the views use values and the API's types, nothing the other way. */
const direction = (files, forbidden, message = "This would import upwards.") => ({
  files,
  rules: {
    "no-restricted-imports": ["error", { patterns: forbidden.map((group) => ({ group: [group], message })) }],
  },
});

const screens = readdirSync(new URL("src/screens", import.meta.url));

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts", "dist"] },
  ...tseslint.configs.strictTypeChecked,
  jsxA11y.flatConfigs.recommended,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
  },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": reactHooks },
    rules: {
      ...reactHooks.configs.recommended.rules,
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
    },
  },
  direction(["src/strip/**", "src/scene/**", "src/script/**"], ["**/screens/**", "**/shell/**"]),
  direction(
    ["src/api/**", "src/values.ts"],
    ["**/screens/**", "**/strip/**", "**/scene/**", "**/script/**", "**/shell/**"],
  ),
  ...screens.map((screen) =>
    direction(
      [`src/screens/${screen}/**`],
      screens.filter((other) => other !== screen).map((other) => `../${other}/**`),
      "Screens do not import each other; what they share is a view.",
    ),
  ),
);
