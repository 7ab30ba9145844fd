import type { MigrationInterface, QueryRunner } from "typeorm";

/**
 * All that a list says of a part, in the order of the list: read without the rows, in which the pictures stand before
 * it.
 */
export class ListParts1764300000006 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE INDEX "part_listed" ON "part"
        ("binnedAt", "updatedAt" DESC, "name", "id", "revision", "pictured", "summary")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "part_listed"`);
  }
}
