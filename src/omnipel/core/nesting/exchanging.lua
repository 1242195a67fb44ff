-- Exchanges of pieces, reckoned by a just-in-time compiler: what `annealing.py` says, some thousand times in a second.
--
-- All numbers lie in arrays of Python's that are named by their addresses (see `annealing.py`, `_Tables`); pieces, ways, sorts, rows and planes are
-- counted from 0. A *row* is what parts two convex parts: some planes, of which the one that parts them best is taken as a line.

local ffi = require("ffi")
local random, log, max, min, abs, huge = math.random, math.log, math.max, math.min, math.abs, math.huge

local WITHIN = 1e-7   -- a number may miss its bound by so much, mm
local PIVOT = 1e-9    -- what is smaller is no pivot
local NOTHING = 1e-11 -- what is smaller has come of rounding
local TORN = 1e-4     -- a programme whose answer breaks a row by more has been spoilt by rounding, mm

local P = {}          -- the problem, and how it is looked at

local function doubles(count) return ffi.new("double[?]", count) end
local function ints(count) return ffi.new("int[?]", count) end

-- What a programme is reckoned with. A column is a number that stands at a bound, a line of the table one that follows from those.
local first, second, normal_x, normal_y, offset, apart, over, rows_held -- rows of near parts
local tableau, tableau_held = nil, 0
local follows, follower, stands, stander, at_most, price, cost, nonzero -- of lines; of columns
local least, most                                                         -- bounds of all numbers
local lines_held, columns_held = 0, 0

local function hold_rows(count)
  first, second, over = ints(count), ints(count), ints(count)
  normal_x, normal_y, offset, apart = doubles(count), doubles(count), doubles(count), doubles(count)
  rows_held = count
end
hold_rows(512)

local function hold_table(lines, columns)
  if lines * columns > tableau_held then
    tableau_held = 2 * lines * columns
    tableau = doubles(tableau_held)
  end
  if lines > lines_held or columns > columns_held then
    lines_held, columns_held = 2 * max(lines, lines_held), 2 * max(columns, columns_held)
    follows, follower = doubles(lines_held), ints(lines_held)
    stands, stander, at_most, nonzero = doubles(columns_held), ints(columns_held), ints(columns_held), ints(columns_held)
    price, cost = doubles(columns_held), doubles(columns_held)
    least, most = doubles(lines_held + columns_held), doubles(lines_held + columns_held)
  end
end

-- The rows of parts that are near one another, each with the plane that parts them best: how many; -1 where there is no room for them.
local function read_rows(way, x, y)
  local found, all, ways, stays, seen = 0, P.all, P.ways, P.stays, P.seen
  local pair_first, pair_count, row_first, box = P.pair_first, P.pair_count, P.row_first, P.box
  local nx, ny, off = P.normal_x, P.normal_y, P.offset
  for i = 0, all - 2 do
    for j = i + 1, all - 1 do
      if stays[i] == 0 or stays[j] == 0 then
        local a, b = i, j
        if way[a] > way[b] then a, b = j, i end
        local dx, dy = x[b] - x[a], y[b] - y[a]
        local pair = way[a] * ways + way[b]
        for row = pair_first[pair], pair_first[pair] + pair_count[pair] - 1 do
          local k = 4 * row
          if dx > box[k] - seen and dx < box[k + 2] + seen and dy > box[k + 1] - seen and dy < box[k + 3] + seen then
            local best, plane = -huge, 0
            for q = row_first[row], row_first[row + 1] - 1 do
              local far = nx[q] * dx + ny[q] * dy - off[q]
              if far > best then best, plane = far, q end
            end
            if best < seen then
              if found == rows_held then return -1 end
              first[found], second[found], apart[found] = a, b, best
              normal_x[found], normal_y[found], offset[found] = nx[plane], ny[plane], off[plane]
              found = found + 1
            end
          end
        end
      end
    end
  end
  return found
end

-- The line whose number misses its bounds by most; -1 where none does.
local function worst_line(lines)
  local line, worst = -1, WITHIN
  for i = 0, lines - 1 do
    local id, value = follower[i], follows[i]
    local missed = max(least[id] - value, value - most[id])
    if missed > worst then worst, line = missed, i end
  end
  return line
end

-- The column that may change most cheaply so that a line's number comes to its bound, and what that costs for each mm; -1 where none may.
local function cheapest_column(row, columns, below)
  local column, ratio, size = -1, huge, 0
  for j = 0, columns - 1 do
    local t = row[j]
    if t ~= 0 then
      local helps = (below == (at_most[j] == 0)) and -t or t
      if helps > PIVOT and least[stander[j]] ~= most[stander[j]] then
        local each = abs(price[j]) / helps
        if each < ratio - NOTHING or (each <= ratio + NOTHING and helps > size) then column, ratio, size = j, each, helps end
      end
    end
  end
  return column, ratio
end

-- Let a line's number and a column's change roles: the line's now stands at the bound that it had missed.
local function pivot(line, column, lines, columns, bound)
  local row = tableau + line * columns
  local inverse = 1 / row[column]
  local step, theta, count = (follows[line] - bound) * inverse, price[column] * inverse, 0
  for j = 0, columns - 1 do
    local t = row[j]
    if t ~= 0 and j ~= column then
      nonzero[count] = j
      count = count + 1
      price[j] = price[j] - theta * t
      row[j] = t * inverse
    end
  end
  price[column], row[column] = -theta, inverse
  local entered, left = stands[column] + step, follower[line]
  for i = 0, lines - 1 do
    local other = tableau + i * columns
    local t = other[column]
    if t ~= 0 and i ~= line then
      follows[i] = follows[i] - t * step
      for c = 0, count - 1 do
        local j = nonzero[c]
        local value = other[j] - t * row[j]
        other[j] = abs(value) < NOTHING and 0 or value
      end
      other[column] = -t * inverse
    end
  end
  follows[line], follower[line] = entered, stander[column]
  stands[column], stander[column] = bound, left
end

-- The dual simplex method (C. E. Lemke, 1954), for numbers between bounds, from where each stands at its least: as no cost is below nought, what is
-- looked at is never dearer than the answer. Whether it was found; not where it costs more than `dearest`.
local function solved(lines, columns, spent, dearest)
  for _ = 1, 20 * (lines + columns) do
    local line = worst_line(lines)
    if line < 0 then return true end
    local id, value = follower[line], follows[line]
    local below = value < least[id]
    local bound = below and least[id] or most[id]
    local column, ratio = cheapest_column(tableau + line * columns, columns, below)
    if column < 0 then return false end
    spent = spent + ratio * abs(value - bound)
    if spent > dearest then return false end
    pivot(line, column, lines, columns, bound)
    at_most[column] = below and 0 or 1
  end
  return false
end

-- Between which heights the origin of a way lies.
local function heights(w)
  local level = P.level[w]
  if level == level then return level, level end
  local low = -P.low[2 * w + 1]
  return low, max(P.width - P.high[2 * w + 1], low)
end

-- Columns for where each loose piece lies and for how long the lay is: how many, and that of the length.
local function set_columns(way, x, y)
  local columns, reach, small, locked = 0, P.reach, P.sideways / P.all, 0
  for i = 0, P.all - 1 do
    if P.stays[i] == 0 then
      local w = way[i]
      local lowest, highest = heights(w)
      local nearest = -P.low[2 * w]
      P.column[i] = columns
      least[columns], most[columns] = max(x[i] - reach, nearest), max(x[i] + reach, nearest)
      least[columns + 1] = max(min(y[i] - reach, highest), lowest)
      most[columns + 1] = max(min(y[i] + reach, highest), lowest)
      cost[columns], cost[columns + 1] = small, small
      columns = columns + 2
    elseif i < P.pieces then
      locked = max(locked, x[i] + P.high[2 * way[i]])
    end
  end
  least[columns], most[columns], cost[columns] = locked, huge, 1
  return columns + 1, columns
end

-- Columns for what is left of overlaps: how many there are now.
local function set_overlaps(rows, columns)
  for k = 0, rows - 1 do
    over[k] = -1
    if apart[k] < -WITHIN then
      over[k], least[columns], most[columns], cost[columns] = columns, 0, huge, P.overlap
      columns = columns + 1
    end
  end
  return columns
end

-- What is said of a piece's place by a line: its share of the line's number where all stand at their least.
local function set_place(row, piece, u, v, x, y)
  if P.stays[piece] ~= 0 then return u * x[piece] + v * y[piece] end
  local column = P.column[piece]
  row[column], row[column + 1] = -u, -v
  return u * least[column] + v * least[column + 1]
end

-- A line for each two near parts: by how much they are apart; and one for each loose piece: how far it ends before the lay does.
local function set_lines(way, x, y, rows, columns, length)
  for k = 0, rows - 1 do
    local row, u, v = tableau + k * columns, normal_x[k], normal_y[k]
    follows[k] = set_place(row, second[k], u, v, x, y) + set_place(row, first[k], -u, -v, x, y) - offset[k]
    if over[k] >= 0 then row[over[k]] = -1 end
  end
  for e = 0, P.loose_count - 1 do
    local i = P.loose[e]
    local row, column = tableau + (rows + e) * columns, P.column[i]
    row[column], row[length] = 1, -1
    follows[rows + e] = least[length] - least[column] - P.high[2 * way[i]]
  end
  for k = 0, rows + P.loose_count - 1 do
    follower[k], least[columns + k], most[columns + k] = columns + k, 0, huge
  end
end

-- Move the pieces to where the answer says: how much they overlap still; nil where rounding has spoilt it.
local function take_answer(x, y, rows, lines, columns)
  local answer = cost
  for j = 0, columns - 1 do if stander[j] < columns then answer[stander[j]] = stands[j] end end
  for i = 0, lines - 1 do if follower[i] < columns then answer[follower[i]] = follows[i] end end
  for e = 0, P.loose_count - 1 do
    local i = P.loose[e]
    x[i], y[i] = answer[P.column[i]], answer[P.column[i] + 1]
  end
  local left = 0
  for k = 0, rows - 1 do
    local a, b, lacks = first[k], second[k], 0
    if over[k] >= 0 then lacks = answer[over[k]] end
    if normal_x[k] * (x[b] - x[a]) + normal_y[k] * (y[b] - y[a]) - offset[k] + lacks < -TORN then return nil end
    left = left + lacks
  end
  return left
end

-- The shortest lay with the lines as they are read off here: its length, and how much pieces overlap still; nil where it is dearer than asked for.
local function programme(way, x, y, dearest)
  local rows = read_rows(way, x, y)
  while rows < 0 do
    hold_rows(2 * rows_held)
    rows = read_rows(way, x, y)
  end
  hold_table(rows + P.loose_count, 2 * P.loose_count + 1 + rows)
  local columns, length = set_columns(way, x, y)
  columns = set_overlaps(rows, columns)
  local lines = rows + P.loose_count
  ffi.fill(tableau, 8 * lines * columns)
  set_lines(way, x, y, rows, columns, length)
  local spent = 0
  for j = 0, columns - 1 do
    stander[j], stands[j], at_most[j], price[j] = j, least[j], 0, cost[j]
    spent = spent + cost[j] * least[j]
  end
  if not solved(lines, columns, spent, dearest) then return nil end
  local left = take_answer(x, y, rows, lines, columns)
  return left and cost[length], left
end

-- Draw pieces together from where they are: how long the lay is then; nil where they cannot be parted, or where it comes out clearly longer than asked for.
local function settle(way, x, y, longest)
  for e = 0, P.loose_count - 1 do
    local i = P.loose[e]
    local lowest, highest = heights(way[i])
    x[i], y[i] = max(x[i], -P.low[2 * way[i]]), max(min(y[i], highest), lowest)
  end
  local last, parted = huge, false
  for turn = 1, P.rounds do
    local dearest = longest + (turn == 1 and P.far or P.hopeless)
    local length, left = programme(way, x, y, dearest)
    if not length then return nil end
    parted = left < P.apart
    local price_now = length + P.overlap * left
    if price_now > last - P.gained then break end
    if price_now > dearest then return nil end
    last = price_now
  end
  if not parted then return nil end
  local length = 0
  for i = 0, P.pieces - 1 do length = max(length, x[i] + P.high[2 * way[i]]) end
  return length
end

-- By how much a piece would lie over the others at a place: the depths of all parts that overlap together, mm.
local function overlap(way, x, y, piece, px, py)
  local sum, ways = 0, P.ways
  local pair_first, pair_count, row_first, box = P.pair_first, P.pair_count, P.row_first, P.box
  local nx, ny, off = P.normal_x, P.normal_y, P.offset
  for i = 0, P.all - 1 do
    if i ~= piece then
      local a, b, dx, dy = piece, i, x[i] - px, y[i] - py
      if way[a] > way[b] then a, b, dx, dy = i, piece, -dx, -dy end
      local pair = way[a] * ways + way[b]
      for row = pair_first[pair], pair_first[pair] + pair_count[pair] - 1 do
        local k = 4 * row
        if dx > box[k] and dx < box[k + 2] and dy > box[k + 1] and dy < box[k + 3] then
          local best = -huge
          for q = row_first[row], row_first[row + 1] - 1 do
            best = max(best, nx[q] * dx + ny[q] * dy - off[q])
          end
          sum = sum - min(best, 0)
        end
      end
    end
  end
  return sum
end

-- A lay that is tried, and what of it can be chosen from.
local way_tried, x_tried, y_tried, chosen

local function copy(way, x, y, to_way, to_x, to_y)
  ffi.copy(to_way, way, 4 * P.pieces)
  ffi.copy(to_x, x, 8 * P.pieces)
  ffi.copy(to_y, y, 8 * P.pieces)
end

-- From a way's origin to the middle of its box.
local function middle(w)
  return (P.low[2 * w] + P.high[2 * w]) / 2, (P.low[2 * w + 1] + P.high[2 * w + 1]) / 2
end

local function swap(one, other)
  local way, x, y = way_tried, x_tried, y_tried
  local ax, ay = middle(way[one])
  local bx, by = middle(way[other])
  local cx, cy = x[one] + ax, y[one] + ay
  x[one], y[one] = x[other] + bx - ax, y[other] + by - ay
  x[other], y[other] = cx - bx, cy - by
end

-- Move a piece to where it overlaps the others least, of some places.
local function move(one, length)
  local low_x, low_y = P.low[2 * way_tried[one]], P.low[2 * way_tried[one] + 1]
  local long = max(length - (P.high[2 * way_tried[one]] - low_x), 0)
  local wide = max(P.width - (P.high[2 * way_tried[one] + 1] - low_y), 0)
  local best, x, y = huge, 0, 0
  for _ = 1, P.places do
    local px, py = random() * long - low_x, random() * wide - low_y
    local depth = overlap(way_tried, x_tried, y_tried, one, px, py)
    if depth < best then best, x, y = depth, px, py end
  end
  x_tried[one], y_tried[one] = x, y
end

-- Another of a piece's ways, any.
local function another_way(one, ways)
  local begin, nth = P.sort_first[P.sort[one]], random(0, ways - 2)
  for k = begin, begin + ways - 1 do
    if P.sort_ways[k] ~= way_tried[one] then
      if nth == 0 then return P.sort_ways[k] end
      nth = nth - 1
    end
  end
end

-- Turn a piece around the middle of its box, to another of its ways.
local function turn(one, ways)
  local ax, ay = middle(way_tried[one])
  local other = another_way(one, ways)
  local bx, by = middle(other)
  way_tried[one], x_tried[one], y_tried[one] = other, x_tried[one] + ax - bx, y_tried[one] + ay - by
end

-- Change one thing about the lay that is tried, whether there is room for it or not.
local function change(length)
  local one, ends, others = P.loose[random(0, P.loose_count - 1)], 0, 0
  if random() < P.last then
    for e = 0, P.loose_count - 1 do
      local i = P.loose[e]
      if x_tried[i] + P.high[2 * way_tried[i]] > length - P.at_end then
        chosen[ends] = i
        ends = ends + 1
      end
    end
    if ends > 0 then one = chosen[random(0, ends - 1)] end
  end
  for e = 0, P.loose_count - 1 do
    local i = P.loose[e]
    if P.sort[i] ~= P.sort[one] then
      chosen[others] = i
      others = others + 1
    end
  end
  local drawn, ways = random(), P.sort_first[P.sort[one] + 1] - P.sort_first[P.sort[one]]
  if drawn < P.swapped and others > 0 then
    swap(one, chosen[random(0, others - 1)])
  elseif drawn < P.swapped + P.moved or ways < 2 then
    move(one, length)
  else
    turn(one, ways)
  end
end

-- What a lay is worth: its length, and a little how far along its pieces end.
local function worth(way, x, length)
  local ends = 0
  for i = 0, P.pieces - 1 do ends = ends + x[i] + P.high[2 * way[i]] end
  return length + P.weight * ends / P.pieces
end

local Exchanges = {}

-- Take a problem: arrays by their addresses, the rest as numbers.
function Exchanges.take(problem, addresses)
  for name, value in pairs(problem) do P[name] = value end
  for name, address in pairs(addresses) do
    local kind = address[2] == "int32" and "int *" or "double *"
    P[name] = ffi.cast(kind, address[1])
  end
  P.column, P.loose, P.loose_count, chosen = ints(P.all), ints(P.all), 0, ints(P.all)
  for i = 0, P.pieces - 1 do
    if P.stays[i] == 0 then
      P.loose[P.loose_count] = i
      P.loose_count = P.loose_count + 1
    end
  end
  way_tried, x_tried, y_tried = ints(P.all), doubles(P.all), doubles(P.all)
  for i = P.pieces, P.all - 1 do way_tried[i], x_tried[i], y_tried[i] = P.way[i], P.x[i], P.y[i] end
end

-- Draw the lay together, as it stands: how long it is then; nil where its pieces cannot be parted.
function Exchanges.settle(longest)
  return settle(P.way, P.x, P.y, longest)
end

function Exchanges.overlap(piece, x, y)
  return overlap(P.way, P.x, P.y, piece, x, y)
end

-- Begin with the lay as it stands, drawn together.
function Exchanges.begin(seed, heat)
  math.randomseed(seed)
  local length = settle(P.way, P.x, P.y, huge)
  if not length then return nil end
  P.heat, P.length, P.worth, P.shortest = heat, length, worth(P.way, P.x, length), length
  copy(P.way, P.x, P.y, P.best_way, P.best_x, P.best_y)
  return length
end

-- Change the lay so many times, cooling from one share of the heat to another: how long the shortest is now.
function Exchanges.exchange(count, from, to)
  local way, x, y = way_tried, x_tried, y_tried
  for k = 0, count - 1 do
    copy(P.way, P.x, P.y, way, x, y)
    change(P.length)
    if random() < P.twice then change(P.length) end
    local worse = -P.heat * (from + (to - from) * k / count) * log(1 - random())
    local length = settle(way, x, y, P.length + worse + P.spare)
    if length then
      local made = worth(way, x, length)
      if made <= P.worth + worse then
        copy(way, x, y, P.way, P.x, P.y)
        P.length, P.worth = length, made
      end
      if length < P.shortest - P.shorter then
        P.shortest = length
        copy(way, x, y, P.best_way, P.best_x, P.best_y)
      end
    end
  end
  return P.shortest
end

return Exchanges
