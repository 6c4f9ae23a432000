import { defineConfig } from "vite";
import { serveCatalogs } from "zealous-mantle/vite";

export default defineConfig({ plugins: [serveCatalogs({ survey: "survey" })] });
