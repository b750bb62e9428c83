;; Light on four cells at a time, by the differences of the eight neighbours of each (Horn 1981). Addresses are those of
;; the column before the first cell, in three rows of 32-bit floats; `out` is where the light of the first cell goes. Up
;; to three cells beyond `count` are reckoned as well. Differences are taken before sums, so that nothing of neighbours
;; that lie near each other is rounded away. Returns the sum of all light, which is no number where a height is missing.
(module
  (memory (export "memory") 1)
  (func (export "shade")
    (param $above i32) (param $row i32) (param $below i32) (param $out i32) (param $count i32)
    (param $p f32) (param $q f32) (param $xx f32) (param $xy f32) (param $yy f32) (param $rise f32)
    (result f32)
    (local $end i32)
    (local $across v128) (local $down v128) (local $light v128) (local $sum v128)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (loop $next
      ;; (ne − nw) + (se − sw) + 2 (e − w)
      (local.set $across
        (f32x4.add
          (f32x4.add
            (f32x4.sub (v128.load offset=8 (local.get $above)) (v128.load (local.get $above)))
            (f32x4.sub (v128.load offset=8 (local.get $below)) (v128.load (local.get $below))))
          (f32x4.mul
            (f32x4.splat (f32.const 2))
            (f32x4.sub (v128.load offset=8 (local.get $row)) (v128.load (local.get $row))))))
      ;; (sw − nw) + (se − ne) + 2 (s − n)
      (local.set $down
        (f32x4.add
          (f32x4.add
            (f32x4.sub (v128.load (local.get $below)) (v128.load (local.get $above)))
            (f32x4.sub (v128.load offset=8 (local.get $below)) (v128.load offset=8 (local.get $above))))
          (f32x4.mul
            (f32x4.splat (f32.const 2))
            (f32x4.sub (v128.load offset=4 (local.get $below)) (v128.load offset=4 (local.get $above))))))
      ;; (rise − p across − q down) ∕ √(1 + xx across² + xy across down + yy down²)
      (local.set $light
        (f32x4.div
          (f32x4.sub
            (f32x4.sub
              (f32x4.splat (local.get $rise))
              (f32x4.mul (f32x4.splat (local.get $p)) (local.get $across)))
            (f32x4.mul (f32x4.splat (local.get $q)) (local.get $down)))
          (f32x4.sqrt
            (f32x4.add
              (f32x4.splat (f32.const 1))
              (f32x4.add
                (f32x4.mul
                  (local.get $across)
                  (f32x4.add
                    (f32x4.mul (f32x4.splat (local.get $xx)) (local.get $across))
                    (f32x4.mul (f32x4.splat (local.get $xy)) (local.get $down))))
                (f32x4.mul
                  (f32x4.mul (f32x4.splat (local.get $yy)) (local.get $down))
                  (local.get $down)))))))
      (v128.store (local.get $out) (f32x4.max (local.get $light) (f32x4.splat (f32.const 0))))
      (local.set $sum (f32x4.add (local.get $sum) (local.get $light)))
      (local.set $above (i32.add (local.get $above) (i32.const 16)))
      (local.set $row (i32.add (local.get $row) (i32.const 16)))
      (local.set $below (i32.add (local.get $below) (i32.const 16)))
      (local.set $out (i32.add (local.get $out) (i32.const 16)))
      (br_if $next (i32.lt_u (local.get $out) (local.get $end))))
    (f32.add
      (f32.add
        (f32x4.extract_lane 0 (local.get $sum))
        (f32x4.extract_lane 1 (local.get $sum)))
      (f32.add
        (f32x4.extract_lane 2 (local.get $sum))
        (f32x4.extract_lane 3 (local.get $sum))))))
