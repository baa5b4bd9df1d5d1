package jandrel.core.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MembersTest {
    private static SortedMap<String, String> of(@Nullable String written) {
        TreeMap<String, String> members = new TreeMap<>();
        if (written != null && !written.equals("-")) {
            Arrays.stream(written.split(" ", 0)).forEach(m -> members.put(m.split(":", -1)[0], m.split(":", -1)[1]));
        }
        return members;
    }

    /** Members as name:value; - for none, base empty for never agreed. */
    @ParameterizedTest
    @CsvSource({
        // base, ours, theirs, merged, clash
        "-,a:work,b:home,a:work b:home,false",
        "a:work,a:work,-,-,false",
        "a:work,-,a:work,-,false",
        "a:work,a:home,a:work,a:home,false",
        "a:work,a:home,a:fax,a:home,true",
        // one that says nothing more of it has no other opinion
        "-,a:,a:work,a:work,false",
        "-,a:work,a:,a:work,false",
        ",a:,a:work,a:work,false",
        "-,a:work,a:home,a:work,true",
        // but taking a kind off is a change
        "a:work,a:,a:work,a:,false",
        "a:work,a:,a:home,a:,true"
    })
    void eachMemberIsMergedByItself(@Nullable String base, String ours, String theirs, String merged, boolean clash) {
        SortedMap<String, String> was = of(base);
        Members<String> members = Members.of(
                base == null ? null : new Base<>(was, was), of(ours), of(theirs), true, UnaryOperator.identity());
        assertThat(members.merged()).isEqualTo(of(merged));
        assertThat(members.clash()).isEqualTo(clash);
    }
}
