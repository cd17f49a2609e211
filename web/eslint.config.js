import js from "@eslint/js";
import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import { importX } from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const features = ["signin", "projects", "scene", "elements", "comp", "delivery"];
// From the top: a folder may import those below it, and no other.
const layers = ["app", "features", "parts", "ui", ["domain", "api"]];

const above = (index) => layers.slice(0, index).flat();

export default tseslint.config(
  { ignores: ["dist", "node_modules", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks, "import-x": importX },
    settings: {
      ...importX.flatConfigs.typescript.settings,
      "import-x/resolver-next": [createTypeScriptImportResolver()],
    },
    rules: {
      ...hooks.configs.recommended.rules,
      "import-x/no-cycle": "error",
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "@typescript-eslint/no-non-null-assertion": "off",
      "no-restricted-syntax": [
        "error",
        {
          selector: "CallExpression[callee.name='useDesk'][arguments.length=0]",
          message: "Take what is shown from the store: useDesk(selector) or useDeskFields(names).",
        },
        {
          selector: "JSXText[value=/[A-Za-z]{3}/]",
          message: "Text stands in the desk's strings.ts, where it is read as a list.",
        },
        {
          selector:
            "JSXAttribute[name.name=/^(title|aria-label|label|placeholder|tip|help)$/] > Literal[value=/[A-Za-z]{3}/]",
          message: "Text stands in the desk's strings.ts, where it is read as a list.",
        },
      ],
    },
  },
  {
    files: ["src/**/*.{ts,tsx}"],
    rules: {
      "import-x/no-restricted-paths": [
        "error",
        {
          zones: [
            ...layers.flatMap((layer, index) =>
              [layer].flat().map((target) => ({
                target: `./src/${target}`,
                from: above(index).map((folder) => `./src/${folder}`),
              })),
            ),
            // desks never look into each other
            ...features.map((name) => ({
              target: `./src/features/${name}`,
              from: features.filter((f) => f !== name).map((f) => `./src/features/${f}`),
            })),
          ].filter((zone) => zone.from.length > 0),
        },
      ],
    },
  },
  {
    files: ["src/domain/**"],
    rules: { "no-restricted-imports": ["error", { patterns: ["react"] }] },
  },
  { files: ["src/**/*.test.tsx"], rules: { "no-restricted-syntax": "off" } },
  { files: ["*.js"], ...tseslint.configs.disableTypeChecked },
);
