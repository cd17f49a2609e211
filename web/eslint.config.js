import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// Features do not look into each other; the domain knows nothing of React.
const features = ["signin", "projects", "scene", "elements", "comp", "delivery"];

export default tseslint.config(
  { ignores: ["dist", "node_modules", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "@typescript-eslint/no-non-null-assertion": "off",
    },
  },
  ...features.map((name) => ({
    files: [`src/features/${name}/**`],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: features
            .filter((f) => f !== name)
            .map((f) => ({ group: [`**/features/${f}/*`, `../${f}/*`] })),
        },
      ],
    },
  })),
  {
    files: ["src/domain/**"],
    rules: { "no-restricted-imports": ["error", { patterns: ["react", "**/features/*", "**/ui/*"] }] },
  },
  { files: ["*.js"], ...tseslint.configs.disableTypeChecked },
);
