import type { MigrationInterface, QueryRunner } from "typeorm";

/** What the Shelf lists of a part stands apart from its pictures, and is made after the save. */
export class PreviewsApart1764000000003 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "part" ADD COLUMN "summary" text NOT NULL DEFAULT ''`);
    await runner.query(`ALTER TABLE "part" ADD COLUMN "pictured" integer NOT NULL DEFAULT 0`);
    // Kept previews are those of their revisions; one that cannot be read is made anew.
    await runner.query(`
      UPDATE "part" SET "pictured" = "revision", "summary" = json_remove("preview", '$.folded', '$.blank')
      WHERE json_valid("preview")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "part" DROP COLUMN "summary"`);
    await runner.query(`ALTER TABLE "part" DROP COLUMN "pictured"`);
  }
}
