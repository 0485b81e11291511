/** Many entities at once, without what an object mapper does for each: that takes longer than reading them. */
import type { ObjectLiteral, Repository } from 'typeorm';

/**
 * Entities of a repository's table by a clause (`WHERE … ORDER BY …`, columns as the table names them); no relations.
 */
export async function plainRows<T extends ObjectLiteral>(
  repository: Repository<T>,
  clause: string,
  values: readonly unknown[] = [],
): Promise<T[]> {
  const { columns, tableName } = repository.metadata;
  const readers = columns.map((column) => {
    const { databaseName, propertyName, transformer } = column;
    const from = transformer && !Array.isArray(transformer) ? transformer.from.bind(transformer) : undefined;
    return { databaseName, propertyName, from };
  });
  const rows = await repository.query<Record<string, unknown>[]>(`SELECT * FROM "${tableName}" ${clause}`, [...values]);
  return rows.map((row) => {
    const entity: Record<string, unknown> = {};
    for (const { databaseName, propertyName, from } of readers)
      entity[propertyName] = from ? from(row[databaseName]) : row[databaseName];
    return entity as T;
  });
}
