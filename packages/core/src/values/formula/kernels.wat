;; The loops that formulas spend their time in, two numbers at a time (WebAssembly with SIMD). All places are in bytes, blocks are of 1,024 64-bit numbers;
;; an odd count does one number more, which the block has room for. Every rounding is that of operations.ts and sine.ts, so results are the same in every bit.
;; `npm run generate` turns this into generated/kernels.ts.
(module
  (import "blocks" "memory" (memory 1))

  ;; Writes first, first + 1 …, no more than count numbers.
  (func (export "countUp") (param $out i32) (param $first f64) (param $count i32)
    (local $end i32) (local $x v128) (local $two v128)
    (local.set $x (f64x2.replace_lane 1 (f64x2.splat (local.get $first)) (f64.add (local.get $first) (f64.const 1))))
    (local.set $two (f64x2.splat (f64.const 2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (i32.and (local.get $count) (i32.const -2)) (i32.const 3))))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (v128.store (local.get $out) (local.get $x))
        (local.set $x (f64x2.add (local.get $x) (local.get $two)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $next)))
    (if (i32.and (local.get $count) (i32.const 1)) (then (f64.store (local.get $out) (f64x2.extract_lane 0 (local.get $x))))))

  ;; Divides by one number, in place, no more than count numbers.
  (func (export "divide") (param $out i32) (param $by f64) (param $count i32)
    (local $end i32) (local $vby v128)
    (local.set $vby (f64x2.splat (local.get $by)))
    (local.set $end (i32.add (local.get $out) (i32.shl (i32.and (local.get $count) (i32.const -2)) (i32.const 3))))
    (block $done
      (loop $next
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (v128.store (local.get $out) (f64x2.div (v128.load (local.get $out)) (local.get $vby)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $next)))
    (if (i32.and (local.get $count) (i32.const 1)) (then (f64.store (local.get $out) (f64.div (f64.load (local.get $out)) (local.get $by))))))

  ;; 1 where all are from low to high, 0 where one is not, or is no number. Looks at an even count of numbers.
  (func (export "within") (param $a i32) (param $low f64) (param $high f64) (param $count i32) (result i32)
    (local $end i32) (local $good v128) (local $vlow v128) (local $vhigh v128)
    (local.set $good (v128.const i64x2 -1 -1))
    (local.set $vlow (f64x2.splat (local.get $low)))
    (local.set $vhigh (f64x2.splat (local.get $high)))
    (local.set $end (i32.add (local.get $a) (i32.shl (local.get $count) (i32.const 3))))
    (loop $next
      (local.set $good
        (v128.and
          (local.get $good)
          (v128.and (f64x2.ge (v128.load (local.get $a)) (local.get $vlow)) (f64x2.le (v128.load (local.get $a)) (local.get $vhigh)))))
      (local.set $a (i32.add (local.get $a) (i32.const 16)))
      (br_if $next (i32.lt_u (local.get $a) (local.get $end))))
    (i64x2.all_true (local.get $good)))

  ;; (x · m + s) · m2 + s2
  (func (export "line") (param $out i32) (param $a i32) (param $m f64) (param $s f64) (param $m2 f64) (param $s2 f64) (param $count i32)
    (local $end i32) (local $vm v128) (local $vs v128) (local $vm2 v128) (local $vs2 v128)
    (local.set $vm (f64x2.splat (local.get $m)))
    (local.set $vs (f64x2.splat (local.get $s)))
    (local.set $vm2 (f64x2.splat (local.get $m2)))
    (local.set $vs2 (f64x2.splat (local.get $s2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 3))))
    (loop $next
      (v128.store (local.get $out)
        (f64x2.add
          (f64x2.mul (f64x2.add (f64x2.mul (v128.load (local.get $a)) (local.get $vm)) (local.get $vs)) (local.get $vm2))
          (local.get $vs2)))
      (local.set $a (i32.add (local.get $a) (i32.const 16)))
      (local.set $out (i32.add (local.get $out) (i32.const 16)))
      (br_if $next (i32.lt_u (local.get $out) (local.get $end)))))

  ;; Sums and products of two lines.
  (func (export "sum") (param $out i32) (param $a i32) (param $m f64) (param $s f64) (param $m2 f64) (param $s2 f64)
      (param $b i32) (param $bm f64) (param $bs f64) (param $bm2 f64) (param $bs2 f64) (param $count i32)
    (local $end i32)
    (local $vm v128) (local $vs v128) (local $vm2 v128) (local $vs2 v128) (local $vbm v128) (local $vbs v128) (local $vbm2 v128) (local $vbs2 v128)
    (local.set $vm (f64x2.splat (local.get $m)))
    (local.set $vs (f64x2.splat (local.get $s)))
    (local.set $vm2 (f64x2.splat (local.get $m2)))
    (local.set $vs2 (f64x2.splat (local.get $s2)))
    (local.set $vbm (f64x2.splat (local.get $bm)))
    (local.set $vbs (f64x2.splat (local.get $bs)))
    (local.set $vbm2 (f64x2.splat (local.get $bm2)))
    (local.set $vbs2 (f64x2.splat (local.get $bs2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 3))))
    (loop $next
      (v128.store (local.get $out)
        (f64x2.add
          (f64x2.add
            (f64x2.mul (f64x2.add (f64x2.mul (v128.load (local.get $a)) (local.get $vm)) (local.get $vs)) (local.get $vm2))
            (local.get $vs2))
          (f64x2.add
            (f64x2.mul (f64x2.add (f64x2.mul (v128.load (local.get $b)) (local.get $vbm)) (local.get $vbs)) (local.get $vbm2))
            (local.get $vbs2))))
      (local.set $a (i32.add (local.get $a) (i32.const 16)))
      (local.set $b (i32.add (local.get $b) (i32.const 16)))
      (local.set $out (i32.add (local.get $out) (i32.const 16)))
      (br_if $next (i32.lt_u (local.get $out) (local.get $end)))))

  (func (export "product") (param $out i32) (param $a i32) (param $m f64) (param $s f64) (param $m2 f64) (param $s2 f64)
      (param $b i32) (param $bm f64) (param $bs f64) (param $bm2 f64) (param $bs2 f64) (param $count i32)
    (local $end i32)
    (local $vm v128) (local $vs v128) (local $vm2 v128) (local $vs2 v128) (local $vbm v128) (local $vbs v128) (local $vbm2 v128) (local $vbs2 v128)
    (local.set $vm (f64x2.splat (local.get $m)))
    (local.set $vs (f64x2.splat (local.get $s)))
    (local.set $vm2 (f64x2.splat (local.get $m2)))
    (local.set $vs2 (f64x2.splat (local.get $s2)))
    (local.set $vbm (f64x2.splat (local.get $bm)))
    (local.set $vbs (f64x2.splat (local.get $bs)))
    (local.set $vbm2 (f64x2.splat (local.get $bm2)))
    (local.set $vbs2 (f64x2.splat (local.get $bs2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 3))))
    (loop $next
      (v128.store (local.get $out)
        (f64x2.mul
          (f64x2.add
            (f64x2.mul (f64x2.add (f64x2.mul (v128.load (local.get $a)) (local.get $vm)) (local.get $vs)) (local.get $vm2))
            (local.get $vs2))
          (f64x2.add
            (f64x2.mul (f64x2.add (f64x2.mul (v128.load (local.get $b)) (local.get $vbm)) (local.get $vbs)) (local.get $vbm2))
            (local.get $vbs2))))
      (local.set $a (i32.add (local.get $a) (i32.const 16)))
      (local.set $b (i32.add (local.get $b) (i32.const 16)))
      (local.set $out (i32.add (local.get $out) (i32.const 16)))
      (br_if $next (i32.lt_u (local.get $out) (local.get $end)))))

  (func (export "sine") (param $out i32) (param $a i32) (param $quadrant i32) (param $count i32)
    (local $end i32) (local $x v128) (local $turns v128) (local $first v128) (local $middle v128) (local $rough v128) (local $tail v128)
    (local $y v128) (local $rest v128) (local $z v128) (local $half v128) (local $near v128) (local $cosine v128) (local $sine v128) (local $cube v128)
    (local $q v128) (local $start v128) (local $bit v128)
    (local $twoOverPi v128) (local $rounding v128) (local $pi1 v128) (local $pi2 v128) (local $pi3 v128)
    (local $halfOne v128) (local $one v128) (local $c1 v128) (local $c2 v128)
    (local $c3 v128) (local $c4 v128) (local $c5 v128) (local $c6 v128) (local $s2 v128) (local $s3 v128)
    (local $s4 v128) (local $s5 v128) (local $s6 v128) (local $s1 v128)
    (local.set $start (i64x2.splat (i64.extend_i32_u (local.get $quadrant))))
    (local.set $bit (i64x2.splat (i64.const 1)))
    ;; Numbers that are made anew in every round cost more than those that wait.
    (local.set $twoOverPi (f64x2.splat (f64.const 0.6366197723675814)))
    (local.set $rounding (f64x2.splat (f64.const 6755399441055744)))
    (local.set $pi1 (f64x2.splat (f64.const 1.57079632673412561417)))
    (local.set $pi2 (f64x2.splat (f64.const 6.0771005063039659766e-11)))
    (local.set $pi3 (f64x2.splat (f64.const 2.02226624879595063154e-21)))
    (local.set $halfOne (f64x2.splat (f64.const 0.5)))
    (local.set $one (f64x2.splat (f64.const 1)))
    (local.set $c1 (f64x2.splat (f64.const 4.16666666666666019037e-2)))
    (local.set $c2 (f64x2.splat (f64.const -1.38888888888741095749e-3)))
    (local.set $c3 (f64x2.splat (f64.const 2.48015872894767294178e-5)))
    (local.set $c4 (f64x2.splat (f64.const -2.75573143513906633035e-7)))
    (local.set $c5 (f64x2.splat (f64.const 2.0875723212981748279e-9)))
    (local.set $c6 (f64x2.splat (f64.const -1.13596475577881948265e-11)))
    (local.set $s2 (f64x2.splat (f64.const 8.33333333332248946124e-3)))
    (local.set $s3 (f64x2.splat (f64.const -1.98412698298579493134e-4)))
    (local.set $s4 (f64x2.splat (f64.const 2.75573137070700676789e-6)))
    (local.set $s5 (f64x2.splat (f64.const -2.50507602534068634195e-8)))
    (local.set $s6 (f64x2.splat (f64.const 1.58969099521155010221e-10)))
    (local.set $s1 (f64x2.splat (f64.const -1.66666666666666324348e-1)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 3))))
    (loop $next
      (local.set $x (v128.load (local.get $a)))
      ;; The lowest bits of this sum are the number of quarter turns.
      (local.set $q (f64x2.add (f64x2.mul (local.get $x) (local.get $twoOverPi)) (local.get $rounding)))
      (local.set $turns (f64x2.sub (local.get $q) (local.get $rounding)))
      (local.set $first
        (f64x2.sub (local.get $x) (f64x2.mul (local.get $turns) (local.get $pi1))))
      (local.set $middle (f64x2.mul (local.get $turns) (local.get $pi2)))
      (local.set $rough (f64x2.sub (local.get $first) (local.get $middle)))
      (local.set $tail
        (f64x2.sub
          (f64x2.mul (local.get $turns) (local.get $pi3))
          (f64x2.sub (f64x2.sub (local.get $first) (local.get $rough)) (local.get $middle))))
      (local.set $y (f64x2.sub (local.get $rough) (local.get $tail)))
      (local.set $rest (f64x2.sub (f64x2.sub (local.get $rough) (local.get $y)) (local.get $tail)))
      (local.set $z (f64x2.mul (local.get $y) (local.get $y)))
      (local.set $half (f64x2.mul (local.get $z) (local.get $halfOne)))
      (local.set $near (f64x2.sub (local.get $one) (local.get $half)))
      (local.set $cosine
        (f64x2.add
          (local.get $near)
          (f64x2.add
            (f64x2.sub (f64x2.sub (local.get $one) (local.get $near)) (local.get $half))
            (f64x2.sub
              (f64x2.mul
                (local.get $z)
                (f64x2.mul
                  (local.get $z)
                  (f64x2.add
                    (local.get $c1)
                    (f64x2.mul
                      (local.get $z)
                      (f64x2.add
                        (local.get $c2)
                        (f64x2.mul
                          (local.get $z)
                          (f64x2.add
                            (local.get $c3)
                            (f64x2.mul
                              (local.get $z)
                              (f64x2.add
                                (local.get $c4)
                                (f64x2.mul
                                  (local.get $z)
                                  (f64x2.add
                                    (local.get $c5)
                                    (f64x2.mul (local.get $z) (local.get $c6)))))))))))))
              (f64x2.mul (local.get $y) (local.get $rest))))))
      (local.set $cube (f64x2.mul (local.get $z) (local.get $y)))
      (local.set $sine
        (f64x2.sub
          (local.get $y)
          (f64x2.sub
            (f64x2.sub
              (f64x2.mul
                (local.get $z)
                (f64x2.sub
                  (f64x2.mul (local.get $rest) (local.get $halfOne))
                  (f64x2.mul
                    (local.get $cube)
                    (f64x2.add
                      (local.get $s2)
                      (f64x2.mul
                        (local.get $z)
                        (f64x2.add
                          (local.get $s3)
                          (f64x2.mul
                            (local.get $z)
                            (f64x2.add
                              (local.get $s4)
                              (f64x2.mul
                                (local.get $z)
                                (f64x2.add
                                  (local.get $s5)
                                  (f64x2.mul (local.get $z) (local.get $s6))))))))))))
              (local.get $rest))
            (f64x2.mul (local.get $cube) (local.get $s1)))))
      ;; Odd quarter turns take the cosine, every second pair the other sign.
      (local.set $q (i64x2.add (local.get $q) (local.get $start)))
      (v128.store (local.get $out)
        (v128.xor
          (v128.bitselect (local.get $cosine) (local.get $sine) (i64x2.neg (v128.and (local.get $q) (local.get $bit))))
          (i64x2.shl (i64x2.shr_u (local.get $q) (i32.const 1)) (i32.const 63))))
      (local.set $a (i32.add (local.get $a) (i32.const 16)))
      (local.set $out (i32.add (local.get $out) (i32.const 16)))
      (br_if $next (i32.lt_u (local.get $out) (local.get $end)))))
)
