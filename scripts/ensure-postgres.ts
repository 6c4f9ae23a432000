/** Makes sure that the tests have a PostgreSQL: Debian's, installed when it is missing and we may. */
import { mayInstall, run } from "./debian.ts";
import { postgresPrograms } from "./postgres.ts";

if (postgresPrograms() === undefined) {
  if (!mayInstall) {
    console.error("The tests of the server need PostgreSQL, and this user may not install it.");
    console.error(
      "Install it (on Debian: sudo apt-get install postgresql), or set POSTGRES_BIN to the folder of its programs.",
    );
    process.exit(1);
  }
  console.log("Installing Debian's PostgreSQL for the tests of the server …");
  const failure =
    run("apt-get", ["update"]) ?? run("apt-get", ["install", "--yes", "--no-install-recommends", "postgresql"]);
  if (failure !== undefined || postgresPrograms() === undefined) {
    console.error(failure ?? "It is installed, and its programs are not where they should be: set POSTGRES_BIN.");
    process.exit(1);
  }
}
