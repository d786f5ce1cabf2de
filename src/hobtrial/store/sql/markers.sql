-- name: begin_marker(name, processes)^
INSERT INTO marker (name, processes) VALUES (:name, :processes) RETURNING id;

-- name: say(marker_id, doing, done, last_error)^
-- What it does now. Gives whether it is to stop; nothing where it is not known any more.
UPDATE marker SET beat = clock_timestamp(), doing = :doing, done = :done, last_error = :last_error
WHERE id = :marker_id RETURNING stopped;

-- name: end_marker(marker_id)!
DELETE FROM marker WHERE id = :marker_id;

-- name: forget_gone(seconds)!
DELETE FROM marker WHERE beat < clock_timestamp() - make_interval(secs => :seconds);

-- name: all_markers()
SELECT id, name, processes, begun_at, doing, done, last_error, stopped,
       extract(epoch FROM clock_timestamp() - beat)::float8 AS quiet
FROM marker ORDER BY begun_at, id;

-- name: set_stopped(marker_id, stopped)^
UPDATE marker SET stopped = :stopped WHERE id = :marker_id RETURNING id;

-- name: waiting()
-- How many texts wait in the queue, by priority.
SELECT priority, count(*) AS texts FROM procrastinate_jobs WHERE status = 'todo' AND right(task_name, 4) = 'mark' GROUP BY priority;

-- name: last_minute()^
SELECT count(*) AS texts FROM report WHERE made_at > clock_timestamp() - interval '1 minute';
