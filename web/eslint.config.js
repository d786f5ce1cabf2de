import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Who may import whom: screens use the views, the views use values and the API's types, nothing the other way. */
const direction = (files, forbidden) => ({
  files,
  rules: {
    "no-restricted-imports": [
      "error",
      { patterns: forbidden.map((group) => ({ group: [group], message: "This would import upwards." })) },
    ],
  },
});

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  ...tseslint.configs.strict,
  jsxA11y.flatConfigs.recommended,
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": reactHooks },
    rules: reactHooks.configs.recommended.rules,
  },
  direction(["src/strip/**", "src/scene/**", "src/script/**"], ["**/screens/**", "**/shell/**"]),
  direction(["src/api/**", "src/values.ts"], ["**/screens/**", "**/strip/**", "**/scene/**", "**/script/**", "**/shell/**"]),
);
