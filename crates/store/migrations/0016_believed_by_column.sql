-- What is believed of a measurement is said by its column, and by the plan no longer.
UPDATE dataset_column
SET rules = json_patch(json_object('lowest', said.lowest, 'highest', said.highest), coalesce(rules, '{}'))
FROM (
    SELECT
        json_extract(v.column_ids, '$[' || (coalesce(json_array_length(v.stated, '$.identifiers'), 0) + m.key) || ']') AS column_id,
        m.value ->> 'lowest' AS lowest,
        m.value ->> 'highest' AS highest
    FROM collection_plan AS p
    JOIN collection_version AS v ON v.plan_id = p.id AND v.version = p.version
    JOIN json_each(v.stated, '$.measurements') AS m
    WHERE m.value ->> 'lowest' IS NOT NULL OR m.value ->> 'highest' IS NOT NULL
) AS said
WHERE dataset_column.id = said.column_id;

UPDATE collection_version
SET stated = json_set(
    stated,
    '$.measurements',
    json((SELECT json_group_array(json_remove(m.value, '$.lowest', '$.highest')) FROM json_each(stated, '$.measurements') AS m))
)
WHERE json_array_length(stated, '$.measurements') > 0;
